import { signedIn } from "@/app/answer";
import { shipContract } from "@/core/ship/contract";
import { setAuthor } from "@/server/ship/authors";

export const POST = signedIn(shipContract.author, (viewer, { params, body }) =>
  setAuthor(viewer, params.key, body),
);
