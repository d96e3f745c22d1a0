import { HOUR, MINUTE, WEEK, type Instant } from "@/core/calendar/instant";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { seededRandom, type Random } from "@/core/forecast/random";
import type { ItemEvent } from "@/core/item/event";
import { replay } from "@/core/item/snapshot";
import { leftAfter, type TimeEntry } from "@/core/time/entry";
import type { DemoItem } from "./history";
import { uuidSource } from "./ids";
import { ZONE } from "./projects";

/** Since then people record their time. */
const WEEKS_RECORDED = 16;
/** So long a point takes, about, in hours of work. */
const HOURS_A_POINT = 5;
/** What goes into each step of the work. */
const SHARES = [0.7, 0.1, 0.2];
const NOTES = [
  "",
  "",
  "",
  "with the crew on the quay",
  "mostly the tests",
  "reading up on the feed",
];

/**
 * The histories with a first estimate on what was planned, and the time that people recorded when
 * they handed it on. Whoever had it in hand recorded it, on the day of that step.
 */
export function withTime(items: readonly DemoItem[], seed: number, now: Instant): DemoItem[] {
  const random = seededRandom(seed);
  const nextId = uuidSource(seededRandom(seed + 1));
  const since = now - WEEKS_RECORDED * WEEK;
  return items.map((item) => {
    const { estimate, createdAt, firstStartedAt, typeId } = item.snapshot;
    const begun = firstStartedAt !== null && firstStartedAt >= since;
    return begun &&
      createdAt < firstStartedAt &&
      estimate !== null &&
      estimate > 0 &&
      typeId !== "task"
      ? recorded(item, { points: estimate, random, nextId })
      : item;
  });
}

interface Recording {
  points: number;
  random: Random;
  nextId: () => string;
}

function recorded(item: DemoItem, { points, random, nextId }: Recording): DemoItem {
  const first = Math.round(points * HOURS_A_POINT * (0.7 + 0.6 * random.next()) * 2) / 2;
  let left: number | null = first;
  let step = 0;
  const events = item.events.flatMap((event): ItemEvent[] => {
    if (event.kind === "created")
      return [{ ...event, new: { ...event.new, firstEstimate: first, remainingHours: first } }];
    const works = event.kind === "moved" && event.old.kind === "working" && !event.new.isReturn;
    if (!works || event.actorId === null || step >= SHARES.length) return [event];
    const hours = points * HOURS_A_POINT * SHARES[step] * (0.6 + 0.9 * random.next());
    step += 1;
    const on = isoDate(dayNumber(event.at, ZONE));
    const note = random.pick(NOTES);
    const minutes = Math.max(15, Math.round((hours * HOUR) / MINUTE / 15) * 15);
    const entry: TimeEntry = { entryId: nextId(), personId: event.actorId, on, minutes, note };
    const was = left;
    left = event.new.kind === "finished" ? 0 : leftAfter(left, null, entry);
    const { itemId, at, actorId, seq } = event;
    const base = { itemId, at, actorId, seq, cause: "demo", commandId: nextId() } as const;
    return [
      { ...base, kind: "time recorded", old: null, new: entry },
      ...(left === was
        ? []
        : [{ ...base, kind: "changed", field: "remainingHours", old: was, new: left } as const]),
      event,
    ];
  });
  const inOrder = events.map((event, i) => ({ ...event, seq: i + 1 }));
  return { ...item, events: inOrder, snapshot: replay(inOrder) };
}
