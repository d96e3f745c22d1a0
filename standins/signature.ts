import { createHmac, randomUUID, timingSafeEqual } from "node:crypto";

/*
 * Signatures of what is sent, as Standard Webhooks 1.0 says: HMAC-SHA256 over id, time and body. The
 * stand-ins have their own: they know nothing of the product's insides.
 */

const PATIENCE_S = 5 * 60;

const signatureOf = (secret: string, id: string, timestamp: string, body: string): string => {
  const key = Buffer.from(secret.replace(/^whsec_/, ""), "base64");
  return `v1,${createHmac("sha256", key).update(`${id}.${timestamp}.${body}`).digest("base64")}`;
};

/** The headers with which something is sent. */
export function signedHeaders(secret: string, body: string): Record<string, string> {
  const id = randomUUID();
  const timestamp = String(Math.floor(Date.now() / 1000));
  return {
    "webhook-id": id,
    "webhook-timestamp": timestamp,
    "webhook-signature": signatureOf(secret, id, timestamp, body),
  };
}

/** Whether something was signed with a secret, and lately. */
export function isSignedWith(
  secret: string,
  headers: Readonly<Record<string, string | string[] | undefined>>,
  body: string,
): boolean {
  const header = (name: string) => String(headers[name] ?? "");
  const timestamp = header("webhook-timestamp");
  if (!/^\d{1,12}$/.test(timestamp)) return false;
  if (Math.abs(Date.now() / 1000 - Number(timestamp)) > PATIENCE_S) return false;
  const wanted = Buffer.from(signatureOf(secret, header("webhook-id"), timestamp, body));
  return header("webhook-signature")
    .split(" ")
    .map((given) => Buffer.from(given))
    .some((given) => given.length === wanted.length && timingSafeEqual(given, wanted));
}
