import { json, readJson, signedInRoute } from "@/app/problem";
import { accountBody, editAccounts, readAccounts } from "@/server/people/accounts";

/** Everybody with an account, for administrators. */
export const GET = signedInRoute(async (viewer) => json(await readAccounts(viewer)));

/** Makes an account, or another link for one. */
export const POST = signedInRoute(async (viewer, request) =>
  json(await editAccounts(viewer, await readJson(request, accountBody)), 201),
);
