import { problem } from "@/app/problem";
import { countUse } from "@/server/rate-limit";

const PER_ADDRESS = 60;
const MINUTE_MS = 60_000;

/** A refusal when an address asks for private pages too often; null while it does not. */
export async function limited(request: Request): Promise<Response | null> {
  const address = request.headers.get("x-client-address") ?? "unknown";
  const { allowed, retryAfter } = await countUse({
    key: `page ${address}`,
    limit: PER_ADDRESS,
    windowMs: MINUTE_MS,
  });
  return allowed
    ? null
    : problem({
        status: 429,
        title: "Too many requests came from your address.",
        detail: `Try again in ${retryAfter} seconds.`,
        more: { code: "too many" },
        headers: { "Retry-After": String(retryAfter) },
      });
}
