import type { Nameable } from "./named";

/** Where somebody begins to name a person or a team: from the `@` to where they write. */
export interface NamingNow {
  from: number;
  words: string;
}

const LONGEST = 60;

/** What of a name stands before the caret; null where none is begun there. */
export function namingAt(text: string, caret: number): NamingNow | null {
  const before = text.slice(Math.max(0, caret - LONGEST), caret);
  const at = before.lastIndexOf("@");
  if (at < 0 || /[\p{L}\p{N}]/u.test(before[at - 1] ?? "")) return null;
  const words = before.slice(at + 1);
  if (/[\n@]/.test(words) || words.split(" ").length > 4) return null;
  return { from: caret - words.length - 1, words };
}

/** Whom the beginning of a name can mean, those first whose name begins with it. */
export function namesFor(words: string, known: readonly Nameable[], most = 6): Nameable[] {
  const wanted = words.toLowerCase();
  const rankOf = ({ name }: Nameable) => {
    const lower = name.toLowerCase();
    if (lower.startsWith(wanted)) return 0;
    return lower.split(" ").some((part) => part.startsWith(wanted)) ? 1 : 2;
  };
  return known
    .filter((one) => rankOf(one) < 2)
    .toSorted((a, b) => rankOf(a) - rankOf(b) || (a.name < b.name ? -1 : 1))
    .slice(0, most);
}

/** The text with the name put in, and where the caret stands then. */
export function withName(
  text: string,
  { from }: NamingNow,
  { caret, name }: { caret: number; name: string },
): { text: string; caret: number } {
  const put = `@${name} `;
  const rest = text.slice(caret).replace(/^ /, "");
  return { text: text.slice(0, from) + put + rest, caret: from + put.length };
}
