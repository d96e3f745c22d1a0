import { limited } from "@/app/page-limit";
import { json, openRoute, readJson } from "@/app/problem";
import { answerQuestion, readPrivatePage } from "@/server/intake/private-page";
import { answerBody } from "@/server/intake/request";

export const GET = openRoute<{ token: string }>(
  async (request, { token }) => (await limited(request)) ?? json(await readPrivatePage(token)),
);

/** The requester's answer to an open question. */
export const POST = openRoute<{ token: string }>(async (request, { token }) => {
  const refused = await limited(request);
  if (refused) return refused;
  await answerQuestion(token, (await readJson(request, answerBody)).answer);
  return json(await readPrivatePage(token));
});
