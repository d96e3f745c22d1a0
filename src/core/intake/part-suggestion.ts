import { isSameTerm } from "@/core/item/terms/current-name";
import type { Term } from "@/core/item/terms/term";
import { words } from "./text-words";

/** A part of the product that a report seems to be about. */
export interface PartSuggestion {
  name: string;
  /** What of the report speaks for it: the place, or words. */
  why: string;
  /** Whether a lead has said that what happens at this place belongs to it. */
  sure: boolean;
}

/** So many are suggested at most. */
const MOST_SUGGESTED = 3;

/** So many words of what belongs to a part have to come up where its name does not. */
const ENOUGH_WORDS = 2;

/**
 * The parts of the product that a report seems to be about, the surest first: those to which its
 * place belongs, those that its words name, and those of whose description it says several words.
 * @param report its title, what happened, and where, as they were written
 */
export function partsSuggested(
  report: { title: string; happened: string; place: string },
  terms: readonly Term[],
): PartSuggestion[] {
  const said = words(`${report.title} ${report.happened} ${report.place}`);
  const stems = new Set(said.map(({ stem }) => stem));
  const spelling = new Map(said.map(({ stem, word }) => [stem, word]));
  const found = terms.flatMap((part): (PartSuggestion & { weight: number })[] => {
    if (!isOffered(part)) return [];
    const place = placeMeant(part, report.place);
    if (place !== undefined)
      return [{ name: part.name, why: `the place is ${place}`, sure: true, weight: Infinity }];
    const named = [part.name, ...part.earlier].find((name) => {
      const own = words(name);
      return own.length > 0 && own.every(({ stem }) => stems.has(stem));
    });
    if (named !== undefined)
      return [{ name: part.name, why: `it says “${named}”`, sure: false, weight: 100 }];
    const shared = [...new Set(words(part.meaning).map(({ stem }) => stem))].filter((stem) =>
      stems.has(stem),
    );
    if (shared.length < ENOUGH_WORDS) return [];
    const why = `it says ${shared
      .slice(0, 3)
      .map((stem) => `“${spelling.get(stem)}”`)
      .join(", ")}`;
    return [{ name: part.name, why, sure: false, weight: shared.length }];
  });
  return found
    .sort((a, b) => b.weight - a.weight || (a.name < b.name ? -1 : 1))
    .slice(0, MOST_SUGGESTED)
    .map(({ weight: _, ...suggestion }) => suggestion);
}

const isOffered = ({ kind, endedAt }: Term): boolean => kind === "part" && endedAt === null;

/** The place that is meant, where a lead has said that what happens there belongs to a part. */
const placeMeant = ({ places }: Term, place: string): string | undefined =>
  places.find((one) => isSameTerm(one, place.trim()));

/**
 * The parts that a report is taken to be about: those that somebody said, none of them included; before
 * that those to which its place belongs.
 * @param report the parts that were said, null where nobody has said anything; and where it happened
 */
export const partsTaken = (
  { parts, place }: { parts: readonly string[] | null; place: string },
  terms: readonly Term[],
): string[] => [
  ...(parts ??
    terms
      .filter((part) => isOffered(part) && placeMeant(part, place) !== undefined)
      .map(({ name }) => name)),
];
