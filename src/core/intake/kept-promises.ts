import type { Instant } from "@/core/calendar/instant";
import type { TargetState } from "./service-target";

/** One promise about an item: how it stands, and when it was kept. */
export interface PromisedAbout {
  itemId: string;
  state: TargetState;
  /** When it was answered, or done; null while it is open. */
  metAt: Instant | null;
}

/**
 * How promises were kept in a period, the same wherever it is told. Items are counted: one is missed
 * when anything promised about it was missed.
 */
export interface KeptPromises {
  /** Of the items decided in the period, the share about which all was kept; null where none was. */
  share: number | null;
  /** Items about which a promise was decided in the period. */
  decided: number;
  missed: number;
  /** The items about which one was missed. */
  missedIds: string[];
}

/**
 * When a promise was decided: kept or missed when it was met, missed unmet when its time ran out;
 * null while it is open.
 */
function decidedAt({ state, metAt }: PromisedAbout): Instant | null {
  if (metAt !== null) return metAt;
  return state.standing === "missed" ? state.dueAt : null;
}

/** @param period half-open */
export function keptPromises(
  promises: readonly PromisedAbout[],
  period: { from: Instant; to: Instant },
): KeptPromises {
  const decided = promises.filter((p) => {
    const at = decidedAt(p);
    return at !== null && at >= period.from && at < period.to;
  });
  const items = new Set(decided.map((p) => p.itemId));
  const missedIds = [
    ...new Set(decided.filter((p) => p.state.standing === "missed").map((p) => p.itemId)),
  ];
  return {
    share: items.size === 0 ? null : (items.size - missedIds.length) / items.size,
    decided: items.size,
    missed: missedIds.length,
    missedIds,
  };
}

/**
 * When the next thing is due among promises of one item: what has run out first, what stands still
 * last. For putting the most urgent first.
 */
export function nextDue(
  states: readonly (TargetState | null)[],
  metAt: readonly (Instant | null)[],
): Instant {
  const open = states.flatMap((s, i) =>
    s !== null && metAt[i] === null ? [s.dueAt ?? Infinity] : [],
  );
  return open.length === 0 ? Infinity : Math.min(...open);
}
