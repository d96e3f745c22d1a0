import { foldCase } from "@/core/formats/fold-case";
import { PLAIN_TERM, type Term, type TermKind } from "./term";

/** A word of a project with how it is used, as one may see it. */
export interface UsedTerm extends Term {
  /** Whether somebody has said anything of it. */
  described: boolean;
  /** Items that say it, and those of them that are not finished. */
  items: number;
  open: number;
  /** Whether whoever looks follows it, and how many do. */
  followed: boolean;
  followers: number;
}

/** The words of a project, for whoever chooses some and for whoever keeps them in order. */
export interface TermsView {
  project: { id: string; key: string };
  terms: UsedTerm[];
  rights: { edit: boolean; follow: boolean };
}

/** Places as people write them that belong to no part, those with most items first. */
export interface FreePlacesView {
  places: { place: string; items: number; open: number }[];
}

/** What a word looks like, known or not. */
export const termNamed = <T extends Term>(
  terms: readonly T[],
  kind: TermKind,
  name: string,
): T | Term =>
  terms.find((term) => term.kind === kind && term.name === name) ?? { ...PLAIN_TERM, kind, name };

/**
 * The words that fit what somebody types, those that begin with it first and then by how many items
 * say them; what is offered no more and what is there already is left out.
 */
export function termsOffered(
  terms: readonly UsedTerm[],
  { kind, typed, chosen }: { kind: TermKind; typed: string; chosen: readonly string[] },
): UsedTerm[] {
  const text = foldCase(typed.trim());
  const begins = (term: UsedTerm) => foldCase(term.name).startsWith(text);
  return terms
    .filter(
      (term) =>
        term.kind === kind &&
        term.endedAt === null &&
        !chosen.includes(term.name) &&
        (foldCase(term.name).includes(text) ||
          term.earlier.some((was) => foldCase(was).includes(text))),
    )
    .sort(
      (a, b) =>
        Number(begins(b)) - Number(begins(a)) ||
        b.items - a.items ||
        (foldCase(a.name) < foldCase(b.name) ? -1 : 1),
    );
}
