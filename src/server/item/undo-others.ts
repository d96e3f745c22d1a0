import { and, eq, ne, notInArray } from "drizzle-orm";
import { decide } from "@/core/item/decide";
import { isRefusal } from "@/core/workflow/refusal";
import type { Transaction } from "@/db/connection";
import { item, itemEvent } from "@/db/schema";
import type { ProjectAccess } from "../people/access";
import type { Doer } from "../people/viewer";
import { moveNeeds } from "./move-needs";
import { eventOf, snapshotOf } from "./rows";
import { storeEvents } from "./store";
import { decisionContext, NO_NAMING, workflowOf } from "./surroundings";

/**
 * Takes back what an undone command did to other items: sub-tasks that it made are withdrawn while
 * nobody has begun them, duplicates that it took along go back. Where something else has happened
 * to one since, that one is left as it is.
 */
export async function undoOthers(
  tx: Transaction,
  viewer: Doer,
  access: ProjectAccess,
  itemId: string,
  undoneCommandId: string,
  commandId: string,
): Promise<void> {
  const links = ["linked", "unlinked"] as const;
  const touched = await tx
    .selectDistinct({ itemId: itemEvent.itemId })
    .from(itemEvent)
    .where(
      and(
        eq(itemEvent.commandId, undoneCommandId),
        ne(itemEvent.itemId, itemId),
        notInArray(itemEvent.kind, [...links]),
      ),
    )
    .orderBy(itemEvent.itemId);
  for (const { itemId: otherId } of touched) {
    const [row] = await tx.select().from(item).where(eq(item.id, otherId)).for("update");
    const history = (
      await tx.select().from(itemEvent).where(eq(itemEvent.itemId, otherId)).orderBy(itemEvent.seq)
    ).map(eventOf);
    const events = history.filter((e) => e.commandId === undoneCommandId);
    const other = snapshotOf(row);
    const workflow = await workflowOf(tx, other.projectId, other.typeId);
    const needs = await moveNeeds(tx, viewer, access, other, undefined);
    const context = decisionContext(
      viewer,
      { access, workflow },
      other,
      commandId,
      needs,
      NO_NAMING,
      { cause: "undo" },
    );
    const made = events.some((e) => e.kind === "created");
    if (made && other.version !== events.at(-1)!.seq) continue;
    const decided = decide(
      other,
      made
        ? { kind: "withdraw", note: "The move that made it was undone." }
        : { kind: "undo", undoneId: undoneCommandId, history },
      context,
    );
    if (!isRefusal(decided)) await storeEvents(tx, other, decided);
  }
}
