import { and, eq, inArray, isNull } from "drizzle-orm";
import type { ItemSnapshot } from "@/core/item/fields";
import { NEW_ITEM } from "@/core/item/new-item";
import { stateOf, transitionsFrom, type Transition } from "@/core/workflow/workflow";
import type { Transaction } from "@/db/connection";
import { item, itemLink, itemType } from "@/db/schema";
import { tell } from "../alerts/tell";
import type { ProjectAccess } from "../people/access";
import type { Principal } from "../people/viewer";
import { enterNew, workflowOf } from "./enter";
import type { Errand } from "./errand";
import { snapshotOf } from "./rows";
import { v7 as newId } from "uuid";

/** A move with follow-ups that has been through the door. */
interface Moved {
  errand: Errand;
  entered: { access: ProjectAccess };
  after: ItemSnapshot;
}

/**
 * The follow-ups of a move that touch other items, in the move's own transaction: all of it or
 * nothing. People who are told are told here; the rest comes back as errands.
 */
export async function* followOthers(
  tx: Transaction,
  by: Principal,
  moved: Moved,
  { followUps }: Transition,
): AsyncGenerator<Errand> {
  const { after } = moved;
  for (const followUp of followUps) {
    if (followUp.kind === "create sub-tasks") yield* await newSubTasks(tx, moved, followUp.titles);
    if (followUp.kind === "finish duplicates") yield* await takeDuplicates(tx, moved, "finish");
    if (followUp.kind === "tell")
      await tell({
        tx,
        moved: after,
        whom: followUp.whom,
        text: followUp.text,
        byId: by.personId,
        at: after.updatedAt,
      });
    if (followUp.kind === "reopen duplicates") yield* await takeDuplicates(tx, moved, "reopen");
  }
}

const followUpOf = ({ errand }: Moved) => ({
  commandId: errand.commandId,
  made: { cause: "follow-up" as const, depth: errand.made?.depth, setOffBy: errand.made?.setOffBy },
});

/** Sub-tasks that are there already, by their title, are not made twice. */
async function newSubTasks(
  tx: Transaction,
  moved: Moved,
  titles: readonly string[],
): Promise<Errand[]> {
  const parent = moved.after;
  const { access } = moved.entered;
  const [type] = await tx
    .select({ id: itemType.id })
    .from(itemType)
    .where(and(eq(itemType.projectId, parent.projectId), eq(itemType.level, 0)))
    .orderBy(itemType.id)
    .limit(1);
  if (!type) return [];
  const children = await tx
    .select({ title: item.title })
    .from(item)
    .where(and(eq(item.parentId, parent.id), isNull(item.withdrawnAt)));
  const there = new Set(children.map((c) => c.title));
  const made: Errand[] = [];
  for (const title of titles.filter((t) => !there.has(t)))
    made.push({
      ...followUpOf(moved),
      on: await enterNew(tx, access, type.id, newId()),
      ask: {
        kind: "create",
        fields: {
          ...NEW_ITEM,
          title,
          typeId: type.id,
          parentId: parent.id,
          teamId: parent.teamId,
        },
        place: "last",
      },
    });
  return made;
}

/**
 * Items that say they duplicate this one end or come back with it: by the first move of their own
 * workflow that leads from where they are to a finished, or an unstarted, state. What their
 * workflow does not allow is left as it is.
 */
async function takeDuplicates(
  tx: Transaction,
  moved: Moved,
  what: "finish" | "reopen",
): Promise<Errand[]> {
  const original = moved.after;
  const { access } = moved.entered;
  const links = tx
    .select({ id: itemLink.fromItemId })
    .from(itemLink)
    .where(and(eq(itemLink.toItemId, original.id), eq(itemLink.kind, "duplicates")));
  const rows = await tx
    .select()
    .from(item)
    .where(
      and(
        inArray(item.id, links),
        eq(item.projectId, original.projectId),
        isNull(item.withdrawnAt),
      ),
    )
    .orderBy(item.id)
    .for("update");
  const wantedKind = what === "finish" ? "finished" : "unstarted";
  const happened = what === "finish" ? "is finished" : "was reopened";
  const note = `It duplicates ${access.project.key}-${original.number}, which ${happened}.`;
  const further: Errand[] = [];
  for (const duplicate of rows.map(snapshotOf)) {
    if ((duplicate.stateKind === "finished") === (what === "finish")) continue;
    const workflow = await workflowOf(tx, duplicate.projectId, duplicate.typeId);
    const transition = transitionsFrom(workflow, duplicate.stateId).findLast(
      (t) => stateOf(workflow, t.to).kind === wantedKind,
    );
    if (!transition) continue;
    further.push({
      ...followUpOf(moved),
      on: { itemId: duplicate.id, access, workflow, before: duplicate },
      ask: {
        kind: "move",
        from: duplicate.stateId,
        to: transition.to,
        answers: { outcome: "duplicate", reason: note, comment: note },
      },
      ifRefused: "leave",
    });
  }
  return further;
}
