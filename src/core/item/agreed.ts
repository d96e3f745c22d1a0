import type { Instant } from "@/core/calendar/instant";
import { passage } from "@/core/item/start-finish";
import { same } from "@/core/workflow/same";
import { criteriaChange } from "./criterion";
import type { ItemEvent } from "./event";
import type { EditableField } from "./fields";
import { replay } from "./snapshot";
import { standingEvents } from "./standing-events";

/*
 * What was agreed when work on an item began, held against what it says now: its description, the
 * criteria by which it is accepted, and its size.
 */

export const AGREED_FIELDS = [
  "description",
  "criteria",
  "estimate",
] as const satisfies readonly EditableField[];

/** How what an item says differs from what was agreed. */
export interface AgreedChanges {
  /** When work began. */
  since: Instant;
  /** The description as it was then; null where it says the same. */
  description: string | null;
  /** What became of the criteria, in words; null where they are the same. */
  criteria: string | null;
  /** The size then; null where it is the same. */
  estimate: { was: number | null } | null;
  /** How often somebody changed any of it since, by person; null for the process. */
  by: { personId: string | null; changes: number }[];
}

/** The last event that stands by which an item was started; null where it never was. */
function startIn(history: readonly ItemEvent[]): ItemEvent | null {
  const started = standingEvents(history).findLast((event) => {
    if (event.kind === "created") return passage("unstarted", event.new.stateKind) === "start";
    return event.kind === "moved" && passage(event.old.kind, event.new.kind) === "start";
  });
  return started ?? null;
}

/**
 * What of an item was changed since work on it began; null where nothing was, or it is not begun.
 * @param history all of its events, oldest first
 */
export function changesSinceAgreed(history: readonly ItemEvent[]): AgreedChanges | null {
  const start = startIn(history);
  if (start === null) return null;
  const at = history.indexOf(start) + 1;
  const then = replay(history.slice(0, at));
  const now = replay(history);
  const criteria = same(then.criteria, now.criteria)
    ? null
    : criteriaChange(then.criteria, now.criteria);
  const changes: Omit<AgreedChanges, "by"> = {
    since: start.at,
    description: then.description === now.description ? null : then.description,
    criteria,
    estimate: then.estimate === now.estimate ? null : { was: then.estimate },
  };
  const { description, estimate } = changes;
  if (description === null && criteria === null && estimate === null) return null;
  return { ...changes, by: changersAfter(history, start) };
}

/** Who changed any of it after work began, those who did it most often first. */
function changersAfter(history: readonly ItemEvent[], start: ItemEvent): AgreedChanges["by"] {
  const counts = new Map<string | null, number>();
  for (const event of standingEvents(history))
    if (event.seq > start.seq && event.kind === "changed" && isAgreed(event.field))
      counts.set(event.actorId, (counts.get(event.actorId) ?? 0) + 1);
  return [...counts]
    .map(([personId, changes]) => ({ personId, changes }))
    .sort((a, b) => b.changes - a.changes);
}

const isAgreed = (field: string): boolean => (AGREED_FIELDS as readonly string[]).includes(field);

/**
 * The number of the last event by which others than somebody changed what was agreed, after work
 * began: they have to have seen it. 0 where there is none.
 * @param history all of the item's events, oldest first
 */
export function toBeSeenBy(history: readonly ItemEvent[], personId: string): number {
  const start = startIn(history);
  if (start === null) return 0;
  const last = standingEvents(history).findLast(
    (event) =>
      event.seq > start.seq &&
      event.kind === "changed" &&
      isAgreed(event.field) &&
      event.actorId !== personId,
  );
  return last?.seq ?? 0;
}
