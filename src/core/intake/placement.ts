import type { Acceptance, Found } from "./acceptance";

/** What accepting does about where the bug was found, beside making its item. */
export interface PlacementPlan {
  /** The fields of the item, whatever the triager had chosen. */
  fields: Partial<Acceptance> & { estimate?: number | null; remainingHours?: number | null };
  /** It stands under this item, as a task of it. */
  under: string | null;
  /** A task for testing it again, in hours; null for none. */
  retestHours: number | null;
  /** The item it came from, linked. */
  cameFrom: string | null;
  /** Straight onto the board, into the first state of work in progress. */
  onBoard: boolean;
}

const PLAIN: PlacementPlan = {
  fields: {},
  under: null,
  retestHours: null,
  cameFrom: null,
  onBoard: false,
};

/** What follows from where a bug was found. */
export function placementOf(found: Found | null): PlacementPlan {
  if (found === null) return PLAIN;
  switch (found.where) {
    case "in work":
      // A part of planned work is planned work: it changes what remains, not how much of the work
      // was an interruption.
      return {
        ...PLAIN,
        fields: {
          origin: "planned",
          classOfService: "standard",
          remainingHours: found.hours,
          estimate: null,
        },
        under: found.itemId,
        retestHours: found.retestHours > 0 ? found.retestHours : null,
      };
    case "in finished work":
      return { ...PLAIN, fields: { estimate: null }, cameFrom: found.itemId };
    case "fix now":
      return {
        ...PLAIN,
        fields: {
          origin: "unplanned",
          classOfService: "expedite",
          estimate: 0,
          place: { at: "top" },
        },
        onBoard: true,
      };
  }
}

/**
 * What a bug that must be fixed now has to say before anybody drops everything for it; empty where
 * nothing is missing.
 */
export function missingForNow(acceptance: Pick<Acceptance, "severity" | "teamId">): string[] {
  return [
    ...(acceptance.severity === null ? ["how severe it is"] : []),
    ...(acceptance.teamId === null ? ["which team takes it"] : []),
  ];
}
