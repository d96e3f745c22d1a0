import type { ItemEvent } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import { TERM_FIELDS, TERM_KINDS, type Term, type TermField, type TermKind } from "./term";

/** What has to be known of a project's words to say what one is called now. */
export type NamedTerm = Pick<Term, "kind" | "name" | "earlier">;

/** Whether two names are one for people, who take no notice of capitals. */
export const isSameTerm = (one: string, other: string): boolean =>
  one.normalize("NFKC").toLowerCase() === other.normalize("NFKC").toLowerCase();

/**
 * The word that is meant by a name: one of the project's, whatever capitals it was written with, or
 * the one that was called so before. A name that the project does not know is a word of its own.
 */
export function termMeant(terms: readonly NamedTerm[], kind: TermKind, name: string): string {
  const own = terms.filter((term) => term.kind === kind);
  const exact = own.find((term) => term.name === name);
  const known =
    exact ??
    own.find((term) => isSameTerm(term.name, name)) ??
    own.find((term) => term.earlier.some((was) => isSameTerm(was, name)));
  return known?.name ?? name;
}

/** The words that are meant by some names, each once, in their order. */
export const termsMeant = (
  terms: readonly NamedTerm[],
  kind: TermKind,
  names: readonly string[],
): string[] => [...new Set(names.map((name) => termMeant(terms, kind, name)))];

/**
 * A history as it reads with the words as they are called now: replaying it gives the item as it
 * is. What was stored keeps what was said then.
 */
export function historyAsCalledNow(
  history: readonly ItemEvent[],
  terms: readonly NamedTerm[],
): readonly ItemEvent[] {
  const renamed = terms.filter(({ earlier }) => earlier.length > 0);
  if (renamed.length === 0) return history;
  return history.map((event) => {
    switch (event.kind) {
      case "created":
      case "undone":
        return { ...event, new: asCalledNow(event.new, renamed) } as ItemEvent;
      case "changed": {
        const { field } = event;
        if (field !== "labels" && field !== "parts") return event;
        const { [field]: names } = asCalledNow({ [field]: event.new as string[] }, renamed);
        return { ...event, new: names };
      }
      default:
        return event;
    }
  });
}

/** What says words of some kinds, with those words as they are called now. */
function asCalledNow<S extends Partial<Pick<ItemSnapshot, TermField>>>(
  says: S,
  renamed: readonly NamedTerm[],
): S {
  const now = TERM_KINDS.flatMap((kind) => {
    const names = says[TERM_FIELDS[kind]];
    const own = renamed.filter((term) => term.kind === kind);
    if (!names) return [];
    return [[TERM_FIELDS[kind], [...new Set(names.map((name) => nameNow(own, name)))]]];
  });
  return { ...says, ...Object.fromEntries(now) };
}

/** Exactly what was renamed counts here: an item may say a word with other capitals. */
const nameNow = (renamed: readonly NamedTerm[], name: string): string =>
  renamed.find(({ earlier }) => earlier.includes(name))?.name ?? name;
