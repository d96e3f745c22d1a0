import { z } from "zod";
import type { Instant } from "@/core/calendar/instant";
import { dayStart, isoDate, parseIsoDate } from "@/core/calendar/zone";
import type { SprintsMeant } from "@/core/condition/sprint-word";

/** A time box with a goal; both its days belong to it. One to four weeks are usual. */
export interface Sprint {
  id: string;
  name: string;
  goal: string;
  /** ISO 8601 calendar dates */
  startsOn: string;
  endsOn: string;
}

/** A sprint with when it was started and ended by somebody. */
export interface PlannedSprint extends Sprint {
  startedAt: Instant | null;
  endedAt: Instant | null;
}

/**
 * How a sprint stands: it comes; it runs, from when somebody started it, or from its first day on; its
 * last day has passed and nobody has ended it; somebody has.
 */
export type SprintStanding = "coming" | "running" | "over" | "ended";

/** @param today ISO 8601 date, in the sprint's zone */
export function sprintStanding(
  { startsOn, endsOn, startedAt, endedAt }: Omit<PlannedSprint, "id" | "name" | "goal">,
  today: string,
): SprintStanding {
  if (endedAt !== null) return "ended";
  if (endsOn < today) return "over";
  return startedAt !== null || startsOn <= today ? "running" : "coming";
}

export interface SprintBounds {
  start: Instant;
  end: Instant;
}

/**
 * From when to when a sprint counts: from when somebody started it, or its first day began; up to when
 * somebody ended it, and never behind its last day. Null before its start.
 */
export function sprintBounds(
  {
    startsOn,
    endsOn,
    startedAt,
    endedAt,
    zone,
  }: Omit<PlannedSprint, "id" | "name" | "goal"> & { zone: string },
  now: Instant,
): SprintBounds | null {
  const start = startedAt ?? dayStart(parseIsoDate(startsOn), zone);
  if (start > now) return null;
  const lastMoment = dayStart(parseIsoDate(endsOn) + 1, zone) - 1;
  return { start, end: Math.max(start, Math.min(now, lastMoment, endedAt ?? Infinity)) };
}

/** A named set of items that are delivered together. */
export interface Release {
  id: string;
  name: string;
  /** From which day on it is worked towards; null: from when something is in it. */
  startsOn: string | null;
  dueOn: string | null;
  releasedAt: number | null;
  /** When it was taken back after it was out; null where it was not. */
  withdrawnAt: number | null;
}

/** A release that nobody has named yet. */
export const newRelease = (id: string): Release => ({
  id,
  name: "",
  startsOn: null,
  dueOn: null,
  releasedAt: null,
  withdrawnAt: null,
});

/** One of those of a project, among which the past ones are not offered for new work. */
export type Listed<T> = T & { past: boolean };

const id = z.string().min(1).max(64);
const name = z.string().trim().min(1, "It needs a name.").max(60, "Use at most 60 characters.");
/** Longer than so many days it is no sprint any more. */
export const LONGEST_SPRINT = 14 * 7;
/** Longer than this it is a season, not a sprint. */
const USUAL_AT_MOST = 4 * 7 + 3;

/** How many days a stretch has, both ends counted. */
function lengthInDays(from: string, to: string): number {
  return Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000) + 1;
}

/** What a long sprint is called; null where it is a usual one. */
export const seasonWords = ({ startsOn, endsOn }: Pick<Sprint, "startsOn" | "endsOn">) =>
  lengthInDays(startsOn, endsOn) > USUAL_AT_MOST ? "a season, not a sprint" : null;

/** The last day of a sprint of so many weeks. */
export const endAfterWeeks = (startsOn: string, weeks: number): string =>
  isoDate(parseIsoDate(startsOn) + 7 * weeks - 1);

/** How many whole weeks a sprint has; null where it has none. */
export function weeksOfSprint({
  startsOn,
  endsOn,
}: Pick<Sprint, "startsOn" | "endsOn">): number | null {
  const days = lengthInDays(startsOn, endsOn);
  return days > 0 && days % 7 === 0 ? days / 7 : null;
}

export const sprintSchema = z
  .object({
    id,
    name,
    goal: z.string().trim().max(300),
    startsOn: z.iso.date(),
    endsOn: z.iso.date(),
  })
  .superRefine((s, context) => {
    const length = lengthInDays(s.startsOn, s.endsOn);
    if (length < 1)
      context.addIssue({ code: "custom", path: ["endsOn"], message: "It ends before it starts." });
    if (length > LONGEST_SPRINT)
      context.addIssue({
        code: "custom",
        path: ["endsOn"],
        message: "A sprint lasts fourteen weeks at most.",
      });
  });

export const releaseSchema = z
  .object({
    id,
    name,
    /** As it was where it is left out. */
    startsOn: z.iso.date().nullable().optional(),
    dueOn: z.iso.date().nullable(),
    released: z.boolean(),
    /** Why its day moves. */
    why: z.string().trim().max(300, "Use at most 300 characters.").optional(),
  })
  .refine(({ startsOn, dueOn }) => !startsOn || dueOn === null || startsOn <= dueOn, {
    path: ["startsOn"],
    message: "It would go out before it starts.",
  });

/** How many sprints are made in a row at most: half a year of weeks. */
export const MOST_IN_A_ROW = 26;

/**
 * The sprint that would come next: from the day after the last one, or from today where that is
 * over.
 * @param sprints in order of their days
 * @param today ISO 8601 date
 * @param days how long it is
 * @example sprintAfter([], "2026-03-02", 14) // Sprint 1, 2026-03-02 to 2026-03-15
 */
export function sprintAfter(
  sprints: readonly Sprint[],
  today: string,
  days: number,
): Pick<Sprint, "name" | "startsOn" | "endsOn"> {
  const last = sprints.at(-1);
  const toCome = last !== undefined && last.endsOn >= today;
  const startsOn = toCome ? parseIsoDate(last.endsOn) + 1 : parseIsoDate(today);
  return {
    name: nameAfter(sprints),
    startsOn: isoDate(startsOn),
    endsOn: isoDate(startsOn + days - 1),
  };
}

/** The name of the last one counted on, else by how many there were. */
function nameAfter(sprints: readonly Sprint[]): string {
  const [, words, number] = /^(.*?)(\d{1,6})$/.exec(sprints.at(-1)?.name ?? "") ?? [];
  if (number === undefined) return `Sprint ${sprints.length + 1}`;
  return `${words}${Number(number) + 1}`;
}

/**
 * Sprints in a row behind those that there are, each as long as the others, without a goal yet.
 * @param ids as many as are wanted
 */
export function sprintsInARow(
  sprints: readonly Sprint[],
  today: string,
  { days, ids }: { days: number; ids: readonly string[] },
): Sprint[] {
  const made: Sprint[] = [];
  for (const id of ids) {
    const next = sprintAfter([...sprints, ...made], today, days);
    made.push({ id, goal: "", ...next });
  }
  return made;
}

/** Two sprints that share a day; null where none do. */
export function overlap(sprints: readonly Sprint[]): [Sprint, Sprint] | null {
  const inOrder = [...sprints].sort((a, b) => (a.startsOn < b.startsOn ? -1 : 1));
  for (let i = 1; i < inOrder.length; i++)
    if (inOrder[i].startsOn <= inOrder[i - 1].endsOn) return [inOrder[i - 1], inOrder[i]];
  return null;
}

const LAST = 3;

/**
 * The sprint that runs on a day, the two to start after it, the one that ended last before it, and
 * with that the two before.
 * @param today ISO 8601 date
 */
export function sprintWords(sprints: readonly Sprint[], today: string): SprintsMeant {
  const inOrder = [...sprints].sort((a, b) => (a.startsOn < b.startsOn ? -1 : 1));
  const idOf = (sprint: Sprint | undefined) => sprint?.id ?? null;
  const toCome = inOrder.filter((s) => s.startsOn > today);
  const over = inOrder.filter((s) => s.endsOn < today);
  return {
    current: idOf(inOrder.find((s) => s.startsOn <= today && today <= s.endsOn)),
    next: idOf(toCome[0]),
    previous: idOf(over.at(-1)),
    "after next": idOf(toCome[1]),
    "last three": over.slice(-LAST).map((s) => s.id),
  };
}
