import { signedIn } from "@/app/answer";
import { workflowContract } from "@/core/workflow/contract";
import { readHabits } from "@/server/workflow/habits";

export const GET = signedIn(workflowContract.habits, (viewer, { params, query }) =>
  readHabits(viewer, params.key, query),
);
