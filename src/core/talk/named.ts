import type { Named } from "./comment";

/** Somebody, or a team, that a text may name. */
export interface Nameable {
  kind: "person" | "team";
  id: string;
  name: string;
}

/** A stretch of a text that names somebody. */
export interface NamedStretch {
  from: number;
  to: number;
  whom: Nameable;
}

/** A text names so many at most; the others are words. */
export const MOST_NAMED = 50;

const LETTER = /[\p{L}\p{N}]/u;

/**
 * Where a text names people and teams: an `@` that no letter stands before, and their name after
 * it, in any case, the longest that fits; not inside code. A first name alone is a name where only
 * one person has it.
 */
export function stretchesNaming(text: string, known: readonly Nameable[]): NamedStretch[] {
  if (!text.includes("@")) return [];
  const names = namesOf(known);
  const shut = codeIn(text);
  const found: NamedStretch[] = [];
  for (let at = text.indexOf("@"); at >= 0; at = text.indexOf("@", at + 1)) {
    if (found.length >= MOST_NAMED) break;
    if (LETTER.test(text[at - 1] ?? "") || shut.some(([a, b]) => a <= at && at < b)) continue;
    const rest = text.slice(at + 1, at + 1 + LONGEST_NAME);
    const fits = names.find(
      ({ words }) =>
        rest.slice(0, words.length).toLowerCase() === words &&
        !LETTER.test(rest[words.length] ?? ""),
    );
    if (fits) found.push({ from: at, to: at + 1 + fits.words.length, whom: fits.whom });
  }
  return found;
}

/** Whom a text names, each once. */
export function namedIn(text: string, known: readonly Nameable[]): Named {
  const all = stretchesNaming(text, known).map(({ whom }) => whom);
  const ids = (kind: Nameable["kind"]) => [
    ...new Set(all.filter((whom) => whom.kind === kind).map(({ id }) => id)),
  ];
  return { people: ids("person"), teams: ids("team") };
}

const LONGEST_NAME = 120;

/** All names that may stand after an `@`, in small letters, the longest first. */
function namesOf(known: readonly Nameable[]): { words: string; whom: Nameable }[] {
  const whole = known.map((whom) => ({ words: whom.name.toLowerCase(), whom }));
  const taken = new Set(whole.map(({ words }) => words));
  const firsts = new Map<string, Nameable | null>();
  for (const whom of known) {
    if (whom.kind !== "person") continue;
    const first = whom.name.toLowerCase().split(" ")[0];
    firsts.set(first, firsts.has(first) ? null : whom);
  }
  const alone = [...firsts].flatMap(([words, whom]) =>
    whom && !taken.has(words) ? [{ words, whom }] : [],
  );
  return [...whole, ...alone]
    .filter(({ words }) => words !== "" && words.length <= LONGEST_NAME)
    .toSorted((a, b) => b.words.length - a.words.length);
}

/** Stretches of code, fenced or in a line, in which nobody is named. */
function codeIn(text: string): [number, number][] {
  const stretches: [number, number][] = [];
  const marks = /(`+)/g;
  let open: { mark: string; from: number } | null = null;
  for (let match = marks.exec(text); match; match = marks.exec(text)) {
    if (!open) open = { mark: match[0], from: match.index };
    else if (match[0].length === open.mark.length) {
      stretches.push([open.from, marks.lastIndex]);
      open = null;
    }
  }
  return stretches;
}
