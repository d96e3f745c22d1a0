import { json, openRoute, problem, readJson } from "@/app/problem";
import { answerQuestion, readPrivatePage } from "@/server/intake/private-page";
import { answerBody } from "@/server/intake/request";
import { countUse } from "@/server/rate-limit";

const PER_ADDRESS = 60;
const MINUTE_MS = 60_000;

async function limited(request: Request): Promise<Response | null> {
  const address = request.headers.get("x-client-address") ?? "unknown";
  const { allowed, retryAfter } = await countUse(`page ${address}`, PER_ADDRESS, MINUTE_MS);
  return allowed ? null : problem(429, "Too many requests came from your address.", `Try again in ${retryAfter} seconds.`, { code: "too many" }, { "Retry-After": String(retryAfter) });
}

export const GET = openRoute<{ token: string }>(async (request, { token }) => (await limited(request)) ?? json(await readPrivatePage(token)));

/** The requester's answer to an open question. */
export const POST = openRoute<{ token: string }>(async (request, { token }) => {
  const refused = await limited(request);
  if (refused) return refused;
  await answerQuestion(token, (await readJson(request, answerBody)).answer);
  return json(await readPrivatePage(token));
});
