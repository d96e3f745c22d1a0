import { and, eq, inArray, isNull } from "drizzle-orm";
import type { ItemSnapshot } from "@/core/item/fields";
import { NEW_ITEM } from "@/core/item/new-item";
import { decide } from "@/core/item/decide";
import { isRefusal } from "@/core/workflow/refusal";
import { stateOf, transitionsFrom, type Transition } from "@/core/workflow/workflow";
import type { Transaction } from "@/db/connection";
import { item, itemLink, itemType } from "@/db/schema";
import { tell } from "../alerts/notices";
import type { Doer } from "../people/viewer";
import { createItemIn } from "./create";
import { moveNeeds } from "./move-needs";
import { snapshotOf } from "./rows";
import { storeEvents } from "./store";
import { decisionContext, NO_NAMING, workflowOf, type ItemSurroundings } from "./surroundings";

/**
 * The follow-ups of a move that touch other items, in the move's own transaction: all of it or
 * nothing.
 */
export async function followOthers(
  tx: Transaction,
  viewer: Doer,
  surroundings: ItemSurroundings,
  moved: ItemSnapshot,
  transition: Transition,
  commandId: string,
  depth: number,
): Promise<void> {
  for (const followUp of transition.followUps) {
    if (followUp.kind === "create sub-tasks")
      await createSubTasks(tx, viewer, surroundings, moved, followUp.titles, commandId);
    if (followUp.kind === "finish duplicates")
      await takeDuplicates(tx, viewer, surroundings, moved, "finish", commandId, depth);
    if (followUp.kind === "tell")
      await tell(tx, moved, followUp.whom, followUp.text, viewer.personId, moved.updatedAt);
    if (followUp.kind === "reopen duplicates")
      await takeDuplicates(tx, viewer, surroundings, moved, "reopen", commandId, depth);
  }
}

/** Sub-tasks that are there already, by their title, are not made twice. */
async function createSubTasks(
  tx: Transaction,
  viewer: Doer,
  { access }: ItemSurroundings,
  parent: ItemSnapshot,
  titles: readonly string[],
  commandId: string,
): Promise<void> {
  const [type] = await tx
    .select({ id: itemType.id })
    .from(itemType)
    .where(and(eq(itemType.projectId, parent.projectId), eq(itemType.level, 0)))
    .orderBy(itemType.id)
    .limit(1);
  if (!type) return;
  const there = new Set(
    (
      await tx
        .select({ title: item.title })
        .from(item)
        .where(and(eq(item.parentId, parent.id), isNull(item.withdrawnAt)))
    ).map((c) => c.title),
  );
  for (const title of titles.filter((t) => !there.has(t)))
    await createItemIn(
      tx,
      viewer,
      access,
      { ...NEW_ITEM, title, typeId: type.id, parentId: parent.id, teamId: parent.teamId },
      "last",
      commandId,
      "follow-up",
    );
}

/**
 * Items that say they duplicate this one end or come back with it: by the first move of their own
 * workflow that leads from where they are to a finished, or an unstarted, state. What their
 * workflow does not allow is left as it is.
 */
async function takeDuplicates(
  tx: Transaction,
  viewer: Doer,
  { access }: ItemSurroundings,
  original: ItemSnapshot,
  what: "finish" | "reopen",
  commandId: string,
  depth: number,
): Promise<void> {
  const links = await tx
    .select({ id: itemLink.fromItemId })
    .from(itemLink)
    .where(and(eq(itemLink.toItemId, original.id), eq(itemLink.kind, "duplicates")));
  if (links.length === 0) return;
  const rows = await tx
    .select()
    .from(item)
    .where(
      and(
        inArray(
          item.id,
          links.map((l) => l.id),
        ),
        eq(item.projectId, original.projectId),
        isNull(item.withdrawnAt),
      ),
    )
    .orderBy(item.id)
    .for("update");
  for (const duplicate of rows.map(snapshotOf)) {
    const workflow = await workflowOf(tx, duplicate.projectId, duplicate.typeId);
    const wantedKind = what === "finish" ? "finished" : "unstarted";
    if ((duplicate.stateKind === "finished") === (what === "finish")) continue;
    const transition = transitionsFrom(workflow, duplicate.stateId).findLast(
      (t) => stateOf(workflow, t.to).kind === wantedKind,
    );
    if (!transition) continue;
    const needs = await moveNeeds(tx, viewer, access, duplicate, undefined);
    const context = decisionContext(
      viewer,
      { access, workflow },
      duplicate,
      commandId,
      needs,
      NO_NAMING,
      { cause: "follow-up" },
    );
    const note =
      what === "finish"
        ? `It duplicates ${access.project.key}-${original.number}, which is finished.`
        : `It duplicates ${access.project.key}-${original.number}, which was reopened.`;
    const outcome = { outcome: "duplicate" as const, reason: note, comment: note };
    const events = decide(
      duplicate,
      {
        kind: "move",
        from: duplicate.stateId,
        to: transition.to,
        answers: outcome,
        commentId: crypto.randomUUID(),
      },
      context,
    );
    if (!isRefusal(events)) await storeEvents(tx, duplicate, events, depth);
  }
}
