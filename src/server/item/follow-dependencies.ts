import { and, eq, isNull, isNotNull, sql } from "drizzle-orm";
import type { ItemSnapshot } from "@/core/item/fields";
import type { ItemEvent } from "@/core/item/event";
import { EMPTIED } from "@/core/item/event-texts";
import { WAITS } from "@/core/item/blocker";
import type { Transaction } from "@/db/connection";
import { block, itemEvent, itemLink } from "@/db/schema";
import { tell } from "../alerts/tell";
import type { ProjectAccess } from "../people/access";
import type { Principal } from "../people/viewer";
import type { Errand } from "./errand";
import { readRows } from "./list/read";
import { snapshotOf } from "./rows";
import { v7 as newId } from "uuid";

/** An item that has been through the door, with what became of it. */
interface Changed {
  errand: Errand;
  entered: { access: ProjectAccess; before: ItemSnapshot | null };
  events: readonly ItemEvent[];
  after: ItemSnapshot;
}

/**
 * What becomes of one item means for those that wait for it. Its delivery lifts the blockers that
 * name it; where that is undone they are raised again. Another end asks their owners whether they
 * still wait, and a reopening tells them; neither lifts anything.
 */
export async function* followDependencies(
  tx: Transaction,
  by: Principal,
  changed: Changed,
): AsyncGenerator<Errand> {
  const { before } = changed.entered;
  const { after, errand } = changed;
  if (before === null) return;
  const delivered = (one: ItemSnapshot) => one.deliveredAt !== null;
  if (!delivered(before) && delivered(after)) yield* await liftBlockers(tx, changed, after.id);
  if (delivered(before) && !delivered(after) && errand.ask.kind === "undo")
    yield* await raiseAgain(tx, changed, errand.ask.commandId);
  const [was, is] = [hasEnded(before), hasEnded(after)];
  const told = errand.ask.kind === "undo" ? null : wordsFor(before, after);
  if (was !== is && told) await tellWaiting(tx, by, after, told);
}

const hasEnded = ({ stateKind, withdrawnAt }: ItemSnapshot): boolean =>
  stateKind === "finished" || withdrawnAt !== null;

/** What the owner of an item is told of what it waits for; null where there is nothing to tell. */
function wordsFor(before: ItemSnapshot, after: ItemSnapshot): string | null {
  if (after.withdrawnAt !== null)
    return "What this waits for was taken back. Does it still wait for it?";
  if (after.stateKind !== "finished")
    return before.deliveredAt === null
      ? "What this waits for was begun again."
      : "What this waited for was delivered, and is worked on again.";
  return after.deliveredAt === null
    ? `What this waits for ended without being delivered: ${after.outcome}. Does it still wait for it?`
    : null;
}

const follows = ({ errand, entered }: Changed, itemId: string): Omit<Errand, "ask"> => ({
  on: { itemId, access: entered.access },
  commandId: errand.commandId,
  made: { cause: "follow-up", depth: errand.made?.depth, setOffBy: errand.made?.setOffBy },
  ifRefused: "leave",
});

/** Lifts what blocks items because they wait for another one. */
export async function liftBlockers(
  tx: Transaction,
  changed: Changed,
  dependencyId: string,
  ofItem?: string,
): Promise<Errand[]> {
  const open = await tx
    .select({ id: block.id, itemId: block.itemId })
    .from(block)
    .where(
      and(
        eq(block.dependencyId, dependencyId),
        isNull(block.liftedAt),
        ofItem === undefined ? undefined : eq(block.itemId, ofItem),
      ),
    )
    .orderBy(block.itemId, block.id);
  return open.map(({ id, itemId }) => ({
    ...follows(changed, itemId),
    ask: { kind: "lift", blockId: id },
  }));
}

/**
 * What a command lifted, and its undoing could not take back because the item went on meanwhile, is
 * raised once more. Comes after what is undone.
 */
async function raiseAgain(
  tx: Transaction,
  changed: Changed,
  undoneCommandId: string,
): Promise<Errand[]> {
  const { after, entered } = changed;
  const lifted = await tx
    .select({ itemId: block.itemId, cause: block.cause, waitingFor: block.waitingFor })
    .from(block)
    .innerJoin(
      itemEvent,
      and(
        eq(itemEvent.itemId, block.itemId),
        eq(itemEvent.commandId, undoneCommandId),
        eq(itemEvent.kind, "lifted"),
        sql`${itemEvent.old} ->> 'blockId' = ${block.id}::text`,
      ),
    )
    .where(and(eq(block.dependencyId, after.id), isNotNull(block.liftedAt)))
    .orderBy(block.itemId, block.id);
  const dependency = { itemId: after.id, key: `${entered.access.project.key}-${after.number}` };
  return lifted.map(({ itemId, cause, waitingFor }) => ({
    ...follows(changed, itemId),
    made: { cause: "undo" },
    ask: {
      kind: "prepared",
      command: {
        kind: "block",
        blockId: newId(),
        cause: cause === EMPTIED ? WAITS : cause,
        waitingFor,
        dependency,
      },
    },
  }));
}

/**
 * Tells the owners of the items that wait for one; of an item that nobody has, the leads. Which one
 * it is they find as far as they may see it.
 */
async function tellWaiting(
  tx: Transaction,
  by: Principal,
  wanted: ItemSnapshot,
  text: string,
): Promise<void> {
  const links = await tx
    .select({ id: itemLink.fromItemId })
    .from(itemLink)
    .where(and(eq(itemLink.toItemId, wanted.id), eq(itemLink.kind, "waits for")))
    .orderBy(itemLink.fromItemId);
  const waiting = await readRows(tx, { ids: links.map(({ id }) => id) });
  for (const one of waiting.map(snapshotOf).filter((row) => !hasEnded(row)))
    await tell({
      tx,
      moved: one,
      whom: [one.assigneeId === null ? { kind: "leads" } : { kind: "assignee" }],
      text,
      byId: by.personId,
      at: wanted.updatedAt,
      otherIds: [wanted.id],
    });
}
