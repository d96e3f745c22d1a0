import { WEEK, type Instant } from "@/core/calendar/instant";
import { addDays, weekdayOf } from "@/core/calendar/month";
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

/** Nobody records more than this on a day, on one item and on all. */
const MOST_OF_ONE = 5 * 60;
const MOST_A_DAY = 7.5 * 60;
/** So far back from a step its time is recorded at most, in days. */
const FARTHEST = 12;

/**
 * The histories with a first estimate on what was planned, and the time that people recorded when
 * they handed it on: whoever had it in hand, on the working days before that step.
 */
export function withTime(items: readonly DemoItem[], seed: number, now: Instant): DemoItem[] {
  const pen = new TimePen(seed);
  const since = now - WEEKS_RECORDED * WEEK;
  return items.map((item) => {
    const { estimate, createdAt, firstStartedAt, typeId } = item.snapshot;
    const begun = firstStartedAt !== null && firstStartedAt >= since && createdAt < firstStartedAt;
    return begun && estimate !== null && estimate > 0 && typeId !== "task"
      ? pen.recorded(item, estimate)
      : item;
  });
}

class TimePen {
  private readonly random: Random;
  private readonly nextId: () => string;
  /** Minutes, by person and day. */
  private readonly full = new Map<string, number>();

  constructor(seed: number) {
    this.random = seededRandom(seed);
    this.nextId = uuidSource(seededRandom(seed + 1));
  }

  recorded(item: DemoItem, points: number): DemoItem {
    const first = Math.round(points * HOURS_A_POINT * (0.7 + 0.6 * this.random.next()) * 2) / 2;
    let left: number | null = first;
    let step = 0;
    const events = item.events.flatMap((event): ItemEvent[] => {
      if (event.kind === "created")
        return [{ ...event, new: { ...event.new, firstEstimate: first, remainingHours: first } }];
      const works = event.kind === "moved" && event.old.kind === "working" && !event.new.isReturn;
      if (!works || event.actorId === null || step >= SHARES.length) return [event];
      const hours = points * HOURS_A_POINT * SHARES[step] * (0.6 + 0.9 * this.random.next());
      step += 1;
      const { itemId, at, actorId, seq } = event;
      const base = { itemId, at, actorId, seq, cause: "demo", commandId: this.nextId() } as const;
      const was = left;
      const entries = this.entries(event.actorId, Math.round(hours * 4) * 15, at);
      for (const entry of entries) left = leftAfter(left, null, entry);
      if (event.new.kind === "finished") left = 0;
      const change = { field: "remainingHours", old: was, new: left } as const;
      return [
        ...entries.map(
          (entry) => ({ ...base, kind: "time recorded", old: null, new: entry }) as const,
        ),
        ...(left === was ? [] : [{ ...base, kind: "changed", ...change } as const]),
        event,
      ];
    });
    const inOrder = events.map((event, i) => ({ ...event, seq: i + 1 }));
    return { ...item, events: inOrder, snapshot: replay(inOrder) };
  }

  /** Fills the working days before a step, the last one first, as far as there is room on them. */
  private entries(personId: string, minutes: number, at: Instant): TimeEntry[] {
    const entries: TimeEntry[] = [];
    const last = isoDate(dayNumber(at, ZONE));
    for (let back = 0, rest = minutes; back < FARTHEST && rest > 0; back++) {
      const on = addDays(last, -back);
      const key = `${personId} ${on}`;
      const room = weekdayOf(on) < 5 ? MOST_A_DAY - (this.full.get(key) ?? 0) : 0;
      const taken = Math.min(rest, MOST_OF_ONE, room);
      if (taken < 15) continue;
      this.full.set(key, (this.full.get(key) ?? 0) + taken);
      rest -= taken;
      const note = this.random.pick(NOTES);
      entries.unshift({ entryId: this.nextId(), personId, on, minutes: taken, note });
    }
    return entries;
  }
}
