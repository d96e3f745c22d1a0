import { signedIn } from "@/app/answer";
import { shipContract } from "@/core/ship/contract";
import { readWhatIsWhere } from "@/server/ship/read-what-is-where";

export const GET = signedIn(shipContract.whatIsWhere, (viewer, { params }) =>
  readWhatIsWhere(viewer, params.key),
);
