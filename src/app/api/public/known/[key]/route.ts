import { forAnyone } from "@/app/answer";
import { problem } from "@/app/problem";
import { requesterContract } from "@/core/intake/requester-contract";
import { knownProblemsLike } from "@/server/intake/known";
import { countUse } from "@/server/rate-limit";

const PER_ADDRESS = 90;
const MINUTE_MS = 60_000;
const SHORTEST = 4;
const LONGEST = 200;

async function mayAsk(request: Request): Promise<Response | null> {
  const address = request.headers.get("x-client-address") ?? "unknown";
  const use = await countUse({ key: `known ${address}`, limit: PER_ADDRESS, windowMs: MINUTE_MS });
  if (use.allowed) return null;
  return problem({
    status: 429,
    title: "Too many questions at once.",
    detail: "Try again in a moment.",
    more: {},
    headers: { "Retry-After": String(use.retryAfter) },
  });
}

export const GET = forAnyone(
  requesterContract.known,
  async ({ params, query }) => {
    const text = query.q.slice(0, LONGEST);
    if (text.trim().length < SHORTEST) return [];
    return knownProblemsLike(params.key.toUpperCase().slice(0, 20), text);
  },
  mayAsk,
);
