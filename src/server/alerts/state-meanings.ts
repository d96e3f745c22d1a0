import { inArray } from "drizzle-orm";
import type { ItemEvent } from "@/core/item/event";
import { grouped } from "@/core/item/grouped";
import { meaningOf, type StateMeaning } from "@/core/workflow/state-meaning";
import type { Reader } from "@/db/connection";
import { state } from "@/db/schema";
import { amongGiven, namedQuery } from "@/db/statement";

const UNKNOWN: StateMeaning = { ofReview: false, ofTest: false };

/** The states that items came to and left. */
export const statesIn = (events: readonly ItemEvent[]): string[] => [
  ...new Set(events.flatMap((e) => (e.kind === "moved" ? [e.old.stateId, e.new.stateId] : []))),
];

const STATES = namedQuery("the states of the workflows that some belong to", (reader) =>
  reader
    .select()
    .from(state)
    .where(
      inArray(
        state.workflowId,
        reader
          .select({ id: state.workflowId })
          .from(state)
          .where(amongGiven(state.id, "ids", "text")),
      ),
    ),
);

/** What states mean for the people of an item, by their ids. */
export async function meaningsOfStates(
  reader: Reader,
  ids: readonly string[],
): Promise<(id: string) => StateMeaning> {
  if (ids.length === 0) return () => UNKNOWN;
  const rows = await STATES(reader, { ids: [...ids] });
  const byWorkflow = grouped(rows, (row) => row.workflowId);
  const known = new Map(
    rows.map((row) => [row.id, meaningOf(row, byWorkflow.get(row.workflowId)!)]),
  );
  return (id) => known.get(id) ?? UNKNOWN;
}
