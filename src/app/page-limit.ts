import { problem } from "@/app/problem";
import { countUse } from "@/server/rate-limit";

const PER_ADDRESS = 60;
const MINUTE_MS = 60_000;

/** A refusal when an address asks for private pages too often; null while it does not. */
export async function limited(request: Request): Promise<Response | null> {
  const address = request.headers.get("x-client-address") ?? "unknown";
  const { allowed, retryAfter } = await countUse(`page ${address}`, PER_ADDRESS, MINUTE_MS);
  return allowed
    ? null
    : problem(
        429,
        "Too many requests came from your address.",
        `Try again in ${retryAfter} seconds.`,
        { code: "too many" },
        { "Retry-After": String(retryAfter) },
      );
}
