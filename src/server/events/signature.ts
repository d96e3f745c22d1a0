import { createHmac, timingSafeEqual } from "node:crypto";

/**
 * How old a signed request may be, in seconds, as Standard Webhooks 1.0 recommends against being
 * sent again.
 */
export const TOLERANCE = 5 * 60;

export interface SignedHeaders {
  id: string;
  timestamp: string;
  /** Several, separated by spaces, each with its version: "v1,…". */
  signature: string;
}

/**
 * The signature of a request as Standard Webhooks 1.0 describes it: HMAC-SHA256 of id, timestamp
 * and body. @param secret `whsec_` and Base64
 */
export function signatureOf(secret: string, id: string, timestamp: string, body: string): string {
  const key = Buffer.from(secret.replace(/^whsec_/, ""), "base64");
  return `v1,${createHmac("sha256", key).update(`${id}.${timestamp}.${body}`).digest("base64")}`;
}

/** Whether a request was signed with the secret, not long ago. @param now in milliseconds */
export function isSigned(
  secret: string,
  { id, timestamp, signature }: SignedHeaders,
  body: string,
  now: number,
): boolean {
  if (!/^\d{1,12}$/.test(timestamp) || Math.abs(now / 1000 - Number(timestamp)) > TOLERANCE)
    return false;
  const wanted = Buffer.from(signatureOf(secret, id, timestamp, body));
  return signature.split(" ").some((given) => {
    const bytes = Buffer.from(given);
    return bytes.length === wanted.length && timingSafeEqual(bytes, wanted);
  });
}
