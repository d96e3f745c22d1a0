import type { Instant } from "@/core/calendar/instant";

/*
 * What leads changed of how a project works, beside its workflows, which have versions of their own:
 * a history that they can read.
 */

export const DESIGN_AREAS = [
  "project",
  "people",
  "types",
  "fields",
  "boards",
  "limits",
  "labels and parts",
  "intake",
  "sprints and releases",
  "code",
] as const;
export type DesignArea = (typeof DESIGN_AREAS)[number];

/** One thing of it that is different: what it was and is, in words. */
export interface DesignDifference {
  what: string;
  old: string | null;
  new: string | null;
}

export interface DesignChange {
  area: DesignArea;
  /** What somebody did, behind their name: "renamed the label “fog” to “mist”". */
  said: string;
  differences: DesignDifference[];
}

/** A change as it is read. */
export interface DesignChangeView extends DesignChange {
  id: string;
  at: Instant;
  /** Who did it; null where nobody did. */
  by: string | null;
}

/** What a project's design history is: the latest first, in pages. */
export interface DesignHistoryView {
  changes: DesignChangeView[];
  /** Where the next page begins; null at the end. */
  next: string | null;
}

/** A change of something that is called by name: made where it was not there before. */
export function savedChange<T extends object>(
  { area, what }: { area: DesignArea; what: string },
  before: T | null,
  after: T,
  words: Partial<Record<keyof T, string>>,
): DesignChange | null {
  const differences = differencesOf(before, after, words);
  if (before !== null && differences.length === 0) return null;
  return { area, said: `${before === null ? "made" : "changed"} ${what}`, differences };
}

/** A change in a sentence, of which nothing more is told. */
export const plainChange = (area: DesignArea, said: string): DesignChange => ({
  area,
  said,
  differences: [],
});

type Told = string | number | boolean | null | undefined | readonly string[];

const inWords = (value: Told): string | null => {
  if (value === null || value === undefined || value === "") return null;
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number" || typeof value === "string") return String(value);
  return value.length === 0 ? null : value.join(", ");
};

/**
 * What is different between two states of something.
 * @param words what each of its properties is called; properties without words are not told
 */
export function differencesOf<T extends object>(
  before: T | null,
  after: T,
  words: Partial<Record<keyof T, string>>,
): DesignDifference[] {
  return (Object.keys(words) as (keyof T)[]).flatMap((name) => {
    const old = before ? inWords(before[name] as Told) : null;
    const now = inWords(after[name] as Told);
    return old === now ? [] : [{ what: words[name]!, old, new: now }];
  });
}
