import type { Instant } from "@/core/calendar/instant";
import { CLASSES_OF_SERVICE, type ClassOfService } from "@/core/item/fields";
import { ascending, quantile } from "@/core/flow/quantile";
import { counted } from "@/core/formats/counted";
import type { CodeWork } from "./item-code";

/** Somebody who could review an item, and why they. */
export interface ReviewerOffered {
  id: string;
  name: string;
  /** "1 to review; 5 of The ticket itself in a year" */
  why: string;
}

/** An item that waits for somebody to read what was done, or is being read. */
export interface ReviewRow {
  id: string;
  key: string;
  title: string;
  typeId: string;
  version: number;
  classOfService: ClassOfService;
  dueOn: string | null;
  estimate: number | null;
  stateName: string;
  /** Whether somebody reads it now. */
  begun: boolean;
  /** Since when it stands where it stands. */
  since: Instant;
  /** For how many calendar days, today counted. */
  days: number;
  builder: string | null;
  reviewer: { id: string; name: string } | null;
  /** What is proposed for it. */
  works: CodeWork[];
  offered: ReviewerOffered[];
}

/** How long something takes as a rule, and from how many it is known. */
export interface UsualTime {
  /** In milliseconds. */
  median: number;
  of: number;
  /** The items behind it, as far as whoever looks may see them. */
  ids: string[];
}

export interface ReviewQueue {
  project: { key: string; name: string; zone: string };
  /** The id of whoever looks. */
  me: string;
  rows: ReviewRow[];
  /** From being proposed to the first word of a reviewer; null where too few are known. */
  firstLook: UsualTime | null;
  /** From being proposed to being on main. */
  merged: UsualTime | null;
  rights: { edit: boolean };
  now: Instant;
}

/** Fewer say nothing of what is usual. */
const FEWEST = 5;

/** The median of some times; null where they are too few. @param ids the items that they are of */
export function usualTime(
  times: readonly { ms: number; ids: readonly string[] }[],
): UsualTime | null {
  if (times.length < FEWEST) return null;
  return {
    median: quantile(ascending(times.map(({ ms }) => ms)), 0.5, 2)!,
    of: times.length,
    ids: [...new Set(times.flatMap(({ ids }) => ids))],
  };
}

/** Somebody who may be asked to review. */
export interface ReviewCandidate {
  id: string;
  name: string;
  /** How much they have to review already. */
  waiting: number;
  /** How much of the same part they built or reviewed lately. */
  knows: number;
  away: boolean;
}

/** Knowing the part well makes up for so much that waits already. */
const MOST_KNOWN = 3;

/**
 * Who is offered to review, the best first: who has little to review already and knows that part. Whoever
 * wrote it is not among them, nor who is away.
 * @param candidates those whose duty it is
 * @param writers who built it, or wrote one of its commits
 * @param part what it is about, in words; null where nobody said
 */
export function offeredReviewers(
  candidates: readonly ReviewCandidate[],
  { writers, part }: { writers: ReadonlySet<string>; part: string | null },
): ReviewerOffered[] {
  const costOf = ({ waiting, knows }: ReviewCandidate) => waiting - Math.min(knows, MOST_KNOWN);
  return candidates
    .filter(({ id, away }) => !writers.has(id) && !away)
    .toSorted((a, b) => costOf(a) - costOf(b) || b.knows - a.knows || (a.name < b.name ? -1 : 1))
    .map(({ id, name, waiting, knows }) => ({
      ...{ id, name },
      why: [
        waiting === 0 ? "nothing to review" : `${waiting} to review`,
        ...(part === null
          ? []
          : [knows === 0 ? `none of ${part} yet` : `${knows} of ${part} in a year`]),
      ].join("; "),
    }));
}

/** What is to be read first: by class, and within one what waits longest. */
export const inReviewOrder = <T extends Pick<ReviewRow, "classOfService" | "since">>(
  rows: readonly T[],
): T[] =>
  rows.toSorted(
    (a, b) =>
      CLASSES_OF_SERVICE.indexOf(a.classOfService) - CLASSES_OF_SERVICE.indexOf(b.classOfService) ||
      a.since - b.since,
  );

/** The parts of the queue for whoever looks: theirs, what nobody has, and what others have. */
export function reviewParts(rows: readonly ReviewRow[], me: string) {
  const ordered = inReviewOrder(rows);
  return {
    mine: ordered.filter(({ reviewer }) => reviewer?.id === me),
    nobodys: ordered.filter(({ reviewer }) => reviewer === null),
    others: ordered.filter(({ reviewer }) => reviewer !== null && reviewer.id !== me),
  };
}

/** "3 wait, 1 is read" */
export const queueWords = (rows: readonly Pick<ReviewRow, "begun">[]): string => {
  const begun = rows.filter((row) => row.begun).length;
  const waits = rows.length - begun;
  return [
    ...(waits > 0 ? [counted(waits, "waits", "wait")] : []),
    ...(begun > 0 ? [`${begun} ${begun === 1 ? "is" : "are"} read`] : []),
  ].join(", ");
};
