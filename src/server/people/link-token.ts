import { createHash, randomBytes } from "node:crypto";

/** Of the token of a link only this is kept. */
export const digestOf = (token: string): string => createHash("sha256").update(token).digest("hex");

/** A token that nobody guesses. */
export const newToken = (): string => randomBytes(24).toString("base64url");
