import type { Instant } from "@/core/calendar/instant";
import type { Cause, ItemEvent } from "@/core/item/event";
import { standingEvents } from "@/core/item/standing-events";

/** What items are planned into. */
export type Timebox = "sprint" | "release";

/** Whose a sprint or a release is. */
export type TimeboxOwnerKind = "project" | "team";

/** The field of an item that says in which it is now. */
export const FIELD_OF_TIMEBOX = { sprint: "sprintId", release: "releaseId" } as const;
export const TIMEBOXES = Object.keys(FIELD_OF_TIMEBOX) as Timebox[];

/** The sprint or release that a field of an item names; null for any other field. */
export const timeboxOfField = (field: string): Timebox | null =>
  TIMEBOXES.find((box) => FIELD_OF_TIMEBOX[box] === field) ?? null;

/**
 * How long an item was in a sprint or a release, and how large it was when it came and when it went:
 * what was committed, added, taken out and carried over is counted from these. The item's own field
 * is only where it is now.
 */
export interface Membership {
  box: Timebox;
  boxId: string;
  /** Number of the event that began it. */
  enteredSeq: number;
  from: Instant;
  to: Instant | null;
  /** In points; null where nobody had estimated. */
  sizeAtStart: number | null;
  sizeAtEnd: number | null;
  /** What put it there, and what took it out. */
  why: Cause;
  whyEnded: Cause | null;
}

/**
 * The memberships that a history amounts to, in the order in which they began. A withdrawn item is in
 * neither any more; what was undone had none.
 */
export function membershipsOf(events: readonly ItemEvent[]): Membership[] {
  const all: Membership[] = [];
  let size: number | null = null;
  const left: Partial<Record<Timebox, string>> = {};
  const end = (box: Timebox, { at, cause }: ItemEvent) => {
    const open = all.findLast((m) => m.box === box && m.to === null);
    if (open) Object.assign(open, { to: at, sizeAtEnd: size, whyEnded: cause });
  };
  const begin = (box: Timebox, boxId: unknown, { seq, at, cause }: ItemEvent) => {
    if (typeof boxId !== "string") return;
    const began = { box, boxId, enteredSeq: seq, from: at, sizeAtStart: size, why: cause };
    all.push({ ...began, to: null, sizeAtEnd: null, whyEnded: null });
  };
  for (const event of standingEvents(events)) {
    if (event.kind === "created") {
      size = event.new.estimate;
      for (const box of TIMEBOXES) begin(box, event.new[FIELD_OF_TIMEBOX[box]], event);
    } else if (event.kind === "changed" && event.field === "estimate")
      size = event.new as number | null;
    else if (event.kind === "changed") {
      const box = timeboxOfField(event.field);
      if (!box) continue;
      end(box, event);
      begin(box, event.new, event);
    } else if (event.kind === "withdrawn")
      for (const box of TIMEBOXES) {
        left[box] = all.findLast((m) => m.box === box && m.to === null)?.boxId;
        end(box, event);
      }
    else if (event.kind === "brought back")
      for (const box of TIMEBOXES) begin(box, left[box], event);
  }
  return all;
}
