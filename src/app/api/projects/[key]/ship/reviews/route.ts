import { signedIn } from "@/app/answer";
import { shipContract } from "@/core/ship/contract";
import { readReviewQueue } from "@/server/ship/review-queue";

export const GET = signedIn(shipContract.reviews, (viewer, { params }) =>
  readReviewQueue(viewer, params.key),
);
