import { grouped } from "@/core/item/grouped";
import type { AcceptanceView, SaidOfIt, ShowingView } from "./acceptance-view";
import type { Answered } from "./answer";

/** Somebody whom an item was shown to, with how it stands. */
export interface ShownTo {
  showing: ShowingView;
  answered: Answered;
  /** The latest first. */
  said: SaidOfIt[];
}

/** The parts in which items are looked at, the most urgent first. */
export const ACCEPTANCE_PARTS = {
  missing: "Something is missing",
  waits: "Waits for a word",
  unshown: "To be shown",
  accepted: "Accepted",
} as const;
export type AcceptancePart = keyof typeof ACCEPTANCE_PARTS;

/** An item with everybody whom it was shown to. */
export interface AcceptanceRow {
  itemId: string;
  key: string;
  title: string;
  typeId: string;
  stateName: string;
  /** For how many days it waits to be accepted; null where the process does not wait for it. */
  days: number | null;
  part: AcceptancePart;
  to: ShownTo[];
}

/**
 * The items that wait to be accepted, or were shown to somebody, each once. What was taken back counts no more, unless
 * something was said before.
 */
export function acceptanceRows({ waiting, showings }: AcceptanceView): AcceptanceRow[] {
  const shown = showings.flatMap((showing) =>
    showing.rows.map((row) => ({ row, to: { showing, answered: row.answered, said: row.said } })),
  );
  const byItem = grouped(shown, ({ row }) => row.itemId);
  const waits = new Map(waiting.map((one) => [one.id, one]));
  const ids = [...new Set([...waiting.map(({ id }) => id), ...byItem.keys()])];
  const rows = ids.map((itemId): AcceptanceRow => {
    const own = byItem.get(itemId) ?? [];
    const known = waits.get(itemId) ?? own[0].row;
    const to = own
      .map((one) => one.to)
      .filter(({ showing, said }) => showing.closed !== "taken back" || said.length > 0);
    return {
      ...{ itemId, key: known.key, title: known.title, typeId: known.typeId },
      ...{ stateName: known.stateName, days: waits.get(itemId)?.days ?? null },
      ...{ part: partOf(to), to },
    };
  });
  // What was shown, taken back, and is waited for by nobody, is nothing to look at.
  return rows.filter(({ to, days }) => to.length > 0 || days !== null);
}

function partOf(to: readonly ShownTo[]): AcceptancePart {
  const open = to.filter(({ showing }) => showing.closed !== "taken back");
  if (open.length === 0) return "unshown";
  if (open.some(({ answered }) => answered === "missing")) return "missing";
  return open.every(({ answered }) => answered === "accepted") ? "accepted" : "waits";
}
