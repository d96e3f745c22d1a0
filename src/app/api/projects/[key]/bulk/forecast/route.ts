import { signedIn } from "@/app/answer";
import { bulkContract } from "@/core/item/bulk/contract";
import { forecastBulk } from "@/server/item/bulk/forecast";

export const POST = signedIn(bulkContract.forecast, (viewer, { params, body }) =>
  forecastBulk(viewer, params.key, body),
);
