import { signedIn } from "@/app/answer";
import { listContract } from "@/core/item/list/contract";
import { exportTable } from "@/server/item/list/table";

export const POST = signedIn(listContract.export, (viewer, { params, body }) =>
  exportTable(viewer, params.key, body),
);
