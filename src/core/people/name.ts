import { z } from "zod";

/**
 * Letters of any script with their marks, figures, spaces, and the signs that names have. No marks
 * that turn writing around or cannot be seen.
 */
const PLAIN = /^[\p{L}\p{M}\p{N}][\p{L}\p{M}\p{N} .,'’()-]*$/u;

/** What a person is called: 1 to 80 plain characters. */
export const nameSchema = z
  .string()
  .transform((name) => name.normalize("NFC").replace(/\s+/g, " ").trim())
  .pipe(
    z
      .string()
      .min(1, "Say what you are called.")
      .max(80, "A name has at most 80 characters.")
      .regex(PLAIN, "A name is of letters, figures, spaces and the signs . , ' ( ) -"),
  );

/**
 * Two names that read the same are the same: capitals, widths of letters and gaps do not matter.
 */
export const nameKey = (name: string): string =>
  name
    .normalize("NFKC")
    .toLowerCase()
    .replace(/[^\p{L}\p{M}\p{N}]/gu, "");
