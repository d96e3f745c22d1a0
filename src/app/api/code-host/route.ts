import { signedIn } from "@/app/answer";
import { shipContract } from "@/core/ship/contract";
import { addressOfEntry } from "@/server/ship/code-host";

export const GET = signedIn(shipContract.enterHost, async (viewer, { query }) => {
  const location = await addressOfEntry(viewer, query);
  return new Response(null, { status: 303, headers: { Location: location } });
});
