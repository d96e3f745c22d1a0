import { createHmac, timingSafeEqual } from "node:crypto";

/*
 * Tokens that say by themselves what they are for, in letters and digits that stand in addresses of
 * mail and of pages alike: an id and the beginning of its HMAC (RFC 2104), as base32 (RFC 4648)
 * in small letters, because mail programs do not keep capitals.
 */

/** What a token lets its holder do. */
export type TokenUse = "answer an alert" | "stop mail about an item";

const LETTERS = "abcdefghijklmnopqrstuvwxyz234567";
const ID_BYTES = 16;
const MAC_BYTES = 10;

function base32(bytes: Buffer): string {
  let bits = "";
  for (const byte of bytes) bits += byte.toString(2).padStart(8, "0");
  return (bits.match(/.{1,5}/g) ?? [])
    .map((five) => LETTERS[parseInt(five.padEnd(5, "0"), 2)])
    .join("");
}

function bytesOf(text: string): Buffer | null {
  let bits = "";
  for (const letter of text) {
    const value = LETTERS.indexOf(letter);
    if (value < 0) return null;
    bits += value.toString(2).padStart(5, "0");
  }
  return Buffer.from((bits.match(/.{8}/g) ?? []).map((eight) => parseInt(eight, 2)));
}

function macOf(use: TokenUse, id: Buffer): Buffer {
  const secret = process.env.BETTER_AUTH_SECRET;
  if (!secret) throw new Error("BETTER_AUTH_SECRET is not set; bin/start makes one");
  return createHmac("sha256", secret).update(`${use} `).update(id).digest().subarray(0, MAC_BYTES);
}

/** The token for an id (a UUID) and a use. */
export function tokenFor(use: TokenUse, uuid: string): string {
  const id = Buffer.from(uuid.replaceAll("-", ""), "hex");
  return base32(Buffer.concat([id, macOf(use, id)]));
}

/** The id that a token is for; null where it is none of ours, or for another use. */
export function idOfToken(use: TokenUse, token: string): string | null {
  const bytes = token.length > 60 ? null : bytesOf(token.toLowerCase());
  if (bytes?.length !== ID_BYTES + MAC_BYTES) return null;
  const id = bytes.subarray(0, ID_BYTES);
  if (!timingSafeEqual(bytes.subarray(ID_BYTES), macOf(use, id))) return null;
  const hex = id.toString("hex");
  return [
    hex.slice(0, 8),
    hex.slice(8, 12),
    hex.slice(12, 16),
    hex.slice(16, 20),
    hex.slice(20),
  ].join("-");
}
