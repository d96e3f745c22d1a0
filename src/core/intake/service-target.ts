import { counted } from "@/core/formats/counted";
import { z } from "zod";
import type { Instant, Interval } from "@/core/calendar/instant";
import { afterWorkingTime, workingTime, type WorkingCalendar } from "@/core/calendar/working-time";
import {
  asksPromise,
  asksWhoLooks,
  conditionSchema,
  type Condition,
} from "@/core/condition/condition";

/** What is promised to whoever asks: how soon a first answer comes, and how soon it is done. */
export interface ServiceTarget {
  id: string;
  name: string;
  /** Which items it is for; the first target whose condition holds counts. */
  condition: Condition;
  /** Hours until somebody takes the item from where new items are; null: nothing is promised. */
  answerHours: number | null;
  /** Hours until it is finished. */
  resolveHours: number | null;
  /** Whether hours count by the project's working calendar, or by the clock. */
  working: boolean;
}

const hours = z.number().positive().max(10_000).nullable();

export const serviceTargetSchema: z.ZodType<ServiceTarget> = z
  .object({
    id: z.string().min(1).max(64),
    name: z.string().trim().min(1, "A target needs a name.").max(60),
    condition: conditionSchema,
    answerHours: hours,
    resolveHours: hours,
    working: z.boolean(),
  })
  .superRefine((t, context) => {
    if (asksWhoLooks(t.condition))
      context.addIssue({
        code: "custom",
        path: ["condition"],
        message: "A promise is the same for everybody: it cannot ask who looks (me, my teams).",
      });
    if (asksPromise(t.condition))
      context.addIssue({
        code: "custom",
        path: ["condition"],
        message: "A promise cannot be made by how promises stand.",
      });
    if (t.answerHours === null && t.resolveHours === null)
      context.addIssue({
        code: "custom",
        path: ["answerHours"],
        message: "A target promises something.",
      });
    if (t.answerHours !== null && t.resolveHours !== null && t.resolveHours < t.answerHours)
      context.addIssue({
        code: "custom",
        path: ["resolveHours"],
        message: "It cannot be done before it is answered.",
      });
  });

export const MOST_TARGETS = 30;

/** What counts for a promise: since when it runs, when it was kept, and when it stood still. */
export interface Promised {
  since: Instant;
  /** When it was answered, or done; null while it is open. */
  metAt: Instant | null;
  /** While the requester was asked and had not answered. */
  paused: readonly Interval[];
}

export type TargetStanding = "kept" | "missed" | "at risk" | "on time" | "paused";

export interface TargetState {
  standing: TargetStanding;
  /** Time used so far, or until it was met, in milliseconds of the target's own time. */
  used: number;
  /** Time left; negative where it is over. */
  left: number;
  /**
   * When it will be, or was, over if nothing pauses it again; null while it is paused, or where the
   * calendar has not so much time in ten years.
   */
  dueAt: Instant | null;
  /** Whether its time is the calendar's working time; otherwise it is by the clock. */
  working: boolean;
}

/** A promise is at risk when less than this share of its time is left. */
export const RISK_SHARE = 0.25;

interface Counting {
  calendar: WorkingCalendar;
  zone: string;
  now: Instant;
}

/**
 * How a promise stands. Time runs from its beginning until it is met; while the requester is asked
 * it stands still. In working time only the calendar's hours count.
 * @param hours what was promised
 */
export function targetState(
  hours: number,
  working: boolean,
  { since, metAt, paused }: Promised,
  { calendar, zone, now }: Counting,
): TargetState {
  const allowed = hours * 3_600_000;
  const end = metAt ?? now;
  const pauses = merged(paused, end).filter((p) => p.to > since);
  const count = (from: Instant, to: Instant) =>
    working ? workingTime(calendar, from, to, zone) : Math.max(0, to - from);
  const used =
    count(since, end) - pauses.reduce((sum, p) => sum + count(Math.max(p.from, since), p.to), 0);
  const left = allowed - used;
  if (metAt === null && left >= 0 && paused.some((p) => p.to === null))
    return { standing: "paused", working, used, left, dueAt: null };
  const standing =
    left < 0
      ? "missed"
      : metAt !== null
        ? "kept"
        : left <= allowed * RISK_SHARE
          ? "at risk"
          : "on time";
  return {
    standing,
    working,
    used,
    left,
    dueAt: dueAt({ allowed, working, since }, pauses, calendar, zone),
  };
}

/**
 * When the allowed time runs out: found by walking from pause to pause, never from now, so that it
 * does not slide while nobody works.
 */
function dueAt(
  { allowed, working, since }: { allowed: number; working: boolean; since: Instant },
  pauses: readonly { from: Instant; to: Instant }[],
  calendar: WorkingCalendar,
  zone: string,
): Instant | null {
  let from = since;
  let left = allowed;
  const after = (start: Instant, time: number) =>
    working ? afterWorkingTime(calendar, start, time, zone) : start + time;
  for (const pause of pauses) {
    const until = Math.max(pause.from, from);
    const passed = working ? workingTime(calendar, from, until, zone) : until - from;
    if (left <= passed) break;
    left -= passed;
    from = Math.max(pause.to, from);
  }
  return after(from, left);
}

/** Pauses in order, none upon another, none after the end. */
function merged(paused: readonly Interval[], end: Instant): { from: Instant; to: Instant }[] {
  const out: { from: Instant; to: Instant }[] = [];
  for (const { from, to } of [...paused].sort((a, b) => a.from - b.from)) {
    const closed = { from, to: Math.min(to ?? end, end) };
    if (closed.to <= closed.from) continue;
    const last = out.at(-1);
    if (last && closed.from <= last.to) last.to = Math.max(last.to, closed.to);
    else out.push(closed);
  }
  return out;
}

/**
 * "3 h left", "missed by 2 days", "119 working hours left": how a promise stands, in words. Working
 * time is never told in days: how long such a day is nobody could say.
 */
export function targetWords({ standing, left, working }: TargetState): string {
  const span = (ms: number) => {
    const minutes = Math.round(Math.abs(ms) / 60_000);
    if (minutes < 60) return `${minutes} ${working ? "working min" : "min"}`;
    if (working)
      return `${minutes < 600 ? Math.round(minutes / 6) / 10 : Math.round(minutes / 60)} working h`;
    return minutes < 48 * 60
      ? `${Math.round(minutes / 6) / 10} h`
      : counted(Math.round(minutes / 144) / 10, "day");
  };
  if (standing === "kept") return `kept, ${span(left)} to spare`;
  if (standing === "missed") return `missed by ${span(left)}`;
  return standing === "paused" ? `stands still, ${span(left)} left` : `${span(left)} left`;
}
