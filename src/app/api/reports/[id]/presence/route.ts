import { signedIn } from "@/app/answer";
import { reportContract } from "@/core/intake/contract";
import { openOnDesk } from "@/server/intake/presence";

export const POST = signedIn(reportContract.open, (viewer, { params }) =>
  openOnDesk(viewer, params.id),
);
