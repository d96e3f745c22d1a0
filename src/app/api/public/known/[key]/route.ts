import { json, openRoute, problem } from "@/app/problem";
import { knownProblemsLike } from "@/server/intake/known";
import { countUse } from "@/server/rate-limit";

const PER_ADDRESS = 90;
const MINUTE_MS = 60_000;
const LONGEST = 200;

/** Published problems that look like the title somebody types. */
export const GET = openRoute<{ key: string }>(async (request, { key }) => {
  const use = await countUse(
    `known ${request.headers.get("x-client-address") ?? "unknown"}`,
    PER_ADDRESS,
    MINUTE_MS,
  );
  if (!use.allowed)
    return problem(
      429,
      "Too many questions at once.",
      "Try again in a moment.",
      {},
      { "Retry-After": String(use.retryAfter) },
    );
  const text = (new URL(request.url).searchParams.get("q") ?? "").slice(0, LONGEST);
  return json(
    text.trim().length < 4 ? [] : await knownProblemsLike(key.toUpperCase().slice(0, 20), text),
  );
});
