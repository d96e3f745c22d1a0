import { limited } from "@/app/page-limit";
import { json, openRoute, readJson } from "@/app/problem";
import { setPasswordByLink, welcomeBody } from "@/server/people/accounts";

/** Sets the password that a link is for. */
export const POST = openRoute<{ token: string }>(
  async (request, { token }) =>
    (await limited(request)) ??
    json(await setPasswordByLink(token, (await readJson(request, welcomeBody)).password)),
);
