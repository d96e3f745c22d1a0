import { signedIn } from "@/app/answer";
import { shipContract } from "@/core/ship/contract";
import { readDeliveries } from "@/server/ship/read-deliveries";

export const GET = signedIn(shipContract.deliveries, (viewer, { params }) =>
  readDeliveries(viewer, params.key),
);
