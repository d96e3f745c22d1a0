import type { IncomingHttpHeaders } from "node:http";

/**
 * The address that a request comes from. Nobody can choose their own: what a client writes into
 * X-Forwarded-For stands at the left of it, what our own proxies add stands at the right, so hops
 * are counted from the right.
 * @param proxies how many proxies of ours stand before the application (TRUST_PROXY); 0 where it is
 *   reached directly
 * @param socketAddress who is connected; used where fewer addresses are named than there are
 *   proxies
 */
export function clientAddress(
  headers: IncomingHttpHeaders,
  proxies: number,
  socketAddress: string | undefined,
): string {
  const direct = (socketAddress ?? "unknown").replace(/^::ffff:/, "");
  if (proxies < 1) return direct;
  const named = [headers["x-forwarded-for"] ?? []]
    .flat()
    .join(",")
    .split(",")
    .map((part) => part.trim())
    .filter((part) => part !== "");
  return (named.at(-proxies) ?? direct).slice(0, 64);
}

/**
 * TRUST_PROXY as a number of proxies; anything else than a small whole number is a mistake that
 * must not pass unseen.
 */
export function trustedProxies(setting: string | undefined): number {
  if (setting === undefined || setting === "") return 0;
  const proxies = Number(setting);
  if (!Number.isInteger(proxies) || proxies < 0 || proxies > 10)
    throw new Error(
      `TRUST_PROXY is the number of proxies before the application, 0 to 10, and not “${setting}”.`,
    );
  return proxies;
}
