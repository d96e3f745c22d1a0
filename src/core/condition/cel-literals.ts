import { tokens } from "./cel-syntax";

/** What a backslash may stand before in a CEL text, besides the numbers of characters. */
const LETTERS = new Set(["a", "b", "f", "n", "r", "t", "v", "\\", "?", '"', "'", "`"]);
const NUMBERED: Record<string, { digits: number; base: RegExp }> = {
  x: { digits: 2, base: /^[0-9a-f]+$/i },
  X: { digits: 2, base: /^[0-9a-f]+$/i },
  u: { digits: 4, base: /^[0-9a-f]+$/i },
  U: { digits: 8, base: /^[0-9a-f]+$/i },
};

/**
 * The first number or text of an expression that CEL (cel-spec, "Numeric Values" and "String and
 * Bytes Values") has no meaning for, although the parser lets it pass: a whole number that does not
 * fit, an escape that there is not.
 */
export function literalProblem(text: string): { at: number; sentence: string } | null {
  for (const token of tokens(text)) {
    if (token.kind === "number") {
      const sentence = numberProblem(token.text);
      if (sentence) return { at: token.at, sentence };
    }
    if (token.kind === "text") {
      const into = strangeEscape(token.text);
      if (into !== null)
        return {
          at: token.at + into,
          sentence: `“${token.text.slice(into, into + 2)}” has no meaning in a text. Write \\\\ for a backslash.`,
        };
    }
  }
  return null;
}

function numberProblem(text: string): string | null {
  const value = Number(text);
  if (!Number.isFinite(value)) return "This number is too large.";
  const whole = /^-?\d+$/.test(text);
  return whole && !Number.isSafeInteger(value)
    ? `A whole number goes up to ${Number.MAX_SAFE_INTEGER.toLocaleString("en")}.`
    : null;
}

/** Where a backslash stands that begins no escape. */
function strangeEscape(text: string): number | null {
  for (let at = 1; at < text.length - 1; at++) {
    if (text[at] !== "\\") continue;
    const length = escapeLength(text, at + 1);
    if (length === 0) return at;
    at += length;
  }
  return null;
}

/** How many characters after the backslash belong to its escape; 0 for none that there is. */
function escapeLength(text: string, at: number): number {
  const letter = text[at];
  if (LETTERS.has(letter)) return 1;
  if (/[0-3]/.test(letter)) return /^[0-7]{3}$/.test(text.slice(at, at + 3)) ? 3 : 0;
  const { digits, base } = NUMBERED[letter] ?? { digits: 0, base: /^$/ };
  const number = text.slice(at + 1, at + 1 + digits);
  if (digits === 0 || number.length < digits || !base.test(number)) return 0;
  const code = parseInt(number, 16);
  return code > 0x10ffff || (code >= 0xd800 && code <= 0xdfff) ? 0 : 1 + digits;
}
