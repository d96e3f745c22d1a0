import { signedIn } from "@/app/answer";
import { bulkContract } from "@/core/item/bulk/contract";
import { readBulkJobs } from "@/server/item/bulk/jobs";
import { changeBulk } from "@/server/item/bulk/start";

export const GET = signedIn(bulkContract.jobs, (viewer, { params }) =>
  readBulkJobs(viewer, params.key),
);

export const POST = signedIn(bulkContract.change, (viewer, { params, body }) =>
  changeBulk(viewer, params.key, body),
);
