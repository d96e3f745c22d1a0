import { signedIn } from "@/app/answer";
import { listContract } from "@/core/item/list/contract";
import { readTable } from "@/server/item/list/table";

export const POST = signedIn(listContract.table, (viewer, { params, body }) =>
  readTable(viewer, params.key, body),
);
