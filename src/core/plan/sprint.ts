import { z } from "zod";
import { isoDate, parseIsoDate } from "@/core/calendar/zone";
import type { SprintsMeant } from "@/core/condition/sprint-word";

/** A time box of at most one month with a goal; both its days belong to it. */
export interface Sprint {
  id: string;
  name: string;
  goal: string;
  /** ISO 8601 calendar dates */
  startsOn: string;
  endsOn: string;
}

/** A named set of items that are delivered together. */
export interface Release {
  id: string;
  name: string;
  dueOn: string | null;
  releasedAt: number | null;
}

/** One of those of a project, among which the past ones are not offered for new work. */
export type Listed<T> = T & { past: boolean };

const id = z.string().min(1).max(64);
const name = z.string().trim().min(1, "It needs a name.").max(60, "Use at most 60 characters.");
const LONGEST_DAYS = 31;

/** How many days a stretch has, both ends counted. */
function lengthInDays(from: string, to: string): number {
  return Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000) + 1;
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
    if (length > LONGEST_DAYS)
      context.addIssue({
        code: "custom",
        path: ["endsOn"],
        message: "A sprint lasts a month at most.",
      });
  });

export const releaseSchema = z.object({
  id,
  name,
  dueOn: z.iso.date().nullable(),
  released: z.boolean(),
});

/** How long a sprint is where nobody says more of it. */
const USUAL_DAYS = 14;

/**
 * The sprint that would come next: from the day after the last one, or from today where that is
 * over.
 * @param sprints in order of their days
 * @param today ISO 8601 date
 * @example sprintAfter([], "2026-03-02") // Sprint 1, 2026-03-02 to 2026-03-15
 */
export function sprintAfter(
  sprints: readonly Sprint[],
  today: string,
): Pick<Sprint, "name" | "startsOn" | "endsOn"> {
  const last = sprints.at(-1);
  const toCome = last !== undefined && last.endsOn >= today;
  const startsOn = toCome ? parseIsoDate(last.endsOn) + 1 : parseIsoDate(today);
  return {
    name: `Sprint ${sprints.length + 1}`,
    startsOn: isoDate(startsOn),
    endsOn: isoDate(startsOn + USUAL_DAYS - 1),
  };
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
