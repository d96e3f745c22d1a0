import { cutText } from "@/core/formats/cut-text";
import { randomUUID } from "node:crypto";
import { and, eq, isNull } from "drizzle-orm";
import { missingForNow, placementOf } from "@/core/intake/placement";
import type { Acceptance } from "@/core/intake/verdict";
import { decide } from "@/core/item/decide";
import type { ItemSnapshot } from "@/core/item/fields";
import { NEW_ITEM } from "@/core/item/new-item";
import { refuse } from "@/core/workflow/refusal";
import { isInProgress, stateOf, statesInOrder, transitionsFrom } from "@/core/workflow/workflow";
import type { Transaction } from "@/db/connection";
import { item, itemEvent, itemType, report } from "@/db/schema";
import { decideAndStore } from "../item/command";
import { createItemIn } from "../item/create";
import { moveNeeds } from "../item/move-needs";
import { snapshotOf } from "../item/rows";
import { seenItem } from "../item/seen-item";
import { storeEvents } from "../item/store";
import { decideNaming, decisionContext, workflowOf } from "../item/surroundings";
import type { ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, Refused } from "../refused";

type ReportRow = typeof report.$inferSelect;

/**
 * Makes the item of an accepted report, in the place that follows from where it was found. All of
 * it, or nothing.
 */
export async function acceptReport(
  tx: Transaction,
  viewer: Viewer,
  access: ProjectAccess,
  row: ReportRow,
  acceptance: Acceptance,
  commandId: string,
): Promise<ItemSnapshot> {
  const { found } = acceptance;
  const plan = placementOf(found);
  if (found?.where === "fix now") {
    const missing = missingForNow(acceptance);
    if (missing.length > 0)
      throw invalid(
        `What is fixed now says ${missing.join(" and ")} first.`,
        "Fill it in: somebody drops other work for it.",
      );
  }
  const {
    place,
    area,
    onBoard,
    found: _,
    impact: _impact,
    urgency: _urgency,
    ...fields
  } = { ...acceptance, ...plan.fields };
  const parent = plan.under ? await openParent(tx, viewer, access, plan.under) : null;
  const base = {
    ...NEW_ITEM,
    ...fields,
    description: describe(row),
    place: area || row.place || null,
  };
  if (parent) {
    const typeId = await taskType(tx, access.project.id);
    const task = await createItemIn(
      tx,
      viewer,
      access,
      { ...base, typeId, parentId: parent.id, teamId: base.teamId ?? parent.teamId },
      "last",
      commandId,
      "verdict",
    );
    if (plan.retestHours !== null)
      await createItemIn(
        tx,
        viewer,
        access,
        {
          ...NEW_ITEM,
          title: cutText(`Test again: ${base.title}`, 300),
          typeId,
          parentId: parent.id,
          teamId: parent.teamId,
          remainingHours: plan.retestHours,
        },
        "last",
        commandId,
        "verdict",
      );
    return task;
  }
  const created = await createItemIn(
    tx,
    viewer,
    access,
    base,
    place.at === "top" ? "first" : place.at === "bottom" ? "last" : { itemId: place.itemId },
    commandId,
    "verdict",
  );
  if (plan.cameFrom) return linkOrigin(tx, viewer, access, created, plan.cameFrom, commandId);
  return plan.onBoard || onBoard ? pullAtOnce(tx, viewer, access, created, commandId) : created;
}

async function openParent(
  tx: Transaction,
  viewer: Viewer,
  access: ProjectAccess,
  itemId: string,
): Promise<ItemSnapshot> {
  const found = await seenItem(tx, viewer, access.project.id, itemId);
  if (!found)
    throw invalid(
      "The item it was found in is not in this project.",
      "Choose one of the items in progress.",
    );
  if (found.stateKind === "finished")
    throw invalid("That item is finished.", "Say that it was found in finished work.");
  return found;
}

async function taskType(tx: Transaction, projectId: string): Promise<string> {
  const [type] = await tx
    .select({ id: itemType.id })
    .from(itemType)
    .where(
      and(eq(itemType.projectId, projectId), eq(itemType.level, 0), isNull(itemType.removedAt)),
    )
    .orderBy(itemType.position)
    .limit(1);
  if (!type)
    throw invalid(
      "This project has no type for parts of an item.",
      "Make one of the lowest level in Design.",
    );
  return type.id;
}

async function linkOrigin(
  tx: Transaction,
  viewer: Viewer,
  access: ProjectAccess,
  created: ItemSnapshot,
  originId: string,
  commandId: string,
): Promise<ItemSnapshot> {
  const origin = await seenItem(tx, viewer, access.project.id, originId);
  if (!origin)
    throw invalid("The item it came from is not in this project.", "Choose another, or none.");
  const surroundings = {
    access,
    workflow: await workflowOf(tx, created.projectId, created.typeId),
  };
  return decideAndStore(
    tx,
    viewer,
    surroundings,
    created,
    commandId,
    { kind: "link", linkKind: "came from", otherKey: `${access.project.key}-${origin.number}` },
    { cause: "verdict" },
  );
}

/**
 * From move to move out of the backlog into the first state in progress; what a rule asks for is
 * the triager's to answer first.
 */
async function pullAtOnce(
  tx: Transaction,
  viewer: Viewer,
  access: ProjectAccess,
  created: ItemSnapshot,
  commandId: string,
): Promise<ItemSnapshot> {
  const workflow = await workflowOf(tx, created.projectId, created.typeId);
  const order = statesInOrder(workflow);
  const onward = transitionsFrom(workflow, created.stateId).filter((t) =>
    isInProgress(stateOf(workflow, t.to).kind),
  );
  const [first] = onward.sort(
    (a, b) => order.findIndex((s) => s.id === a.to) - order.findIndex((s) => s.id === b.to),
  );
  if (!first)
    throw new Refused(
      refuse(
        "no such move",
        "No move leads out of the backlog of this type.",
        "Add one in Design, or accept it into the backlog.",
      ),
    );
  return decideAndStore(
    tx,
    viewer,
    { access, workflow },
    created,
    commandId,
    {
      kind: "move",
      from: created.stateId,
      to: first.to,
      answers: {
        reason: "It is begun at once.",
        comment: "It is begun at once.",
        ...(created.assigneeId ? { assigneeId: created.assigneeId } : {}),
      },
    },
    { cause: "verdict" },
  );
}

/** The report as the description of its item, in Markdown. */
function describe(row: ReportRow): string {
  const parts = [row.happened, ...row.answers.map((a) => `**${a.label}** ${a.value}`)];
  if (row.reproduce) parts.push(`### How to make it happen again\n\n${row.reproduce}`);
  if (row.place) parts.push(`### Where\n\n${row.place}`);
  parts.push(`Reported as ${row.reference}.`);
  return parts.join("\n\n");
}

/**
 * Takes back what accepting made: the item, the task for testing again, and the move onto the
 * board, as long as nobody has done anything since.
 */
export async function withdrawAccepted(
  tx: Transaction,
  viewer: Viewer,
  access: ProjectAccess,
  row: ReportRow,
  commandId: string,
): Promise<void> {
  const others = await tx
    .select({ id: report.id })
    .from(report)
    .where(eq(report.itemId, row.itemId!));
  if (others.length > 1)
    throw new Refused(
      refuse("in use", "Other reports were merged into its item.", "Undo those verdicts first."),
    );
  const made = await tx
    .selectDistinct({ itemId: itemEvent.itemId })
    .from(itemEvent)
    .where(and(eq(itemEvent.commandId, commandId), eq(itemEvent.kind, "created")))
    .orderBy(itemEvent.itemId);
  for (const { itemId } of made) {
    const [found] = await tx.select().from(item).where(eq(item.id, itemId)).for("update");
    const before = snapshotOf(found);
    const surroundings = {
      access,
      workflow: await workflowOf(tx, before.projectId, before.typeId),
    };
    const needs = await moveNeeds(tx, viewer, access, before, undefined);
    const events = await tx
      .select()
      .from(itemEvent)
      .where(eq(itemEvent.itemId, itemId))
      .orderBy(itemEvent.seq);
    const moved = events.find((e) => e.kind === "moved");
    // The move onto the board was part of the verdict; whoever has moved it on since has started.
    const back =
      moved && events.every((e) => e.commandId === commandId)
        ? (moved.old as { stateId: string; kind: ItemSnapshot["stateKind"] })
        : null;
    const context = (naming: Parameters<typeof decisionContext>[5]) =>
      decisionContext(viewer, surroundings, before, randomUUID(), needs, naming, { cause: "undo" });
    const standing = back
      ? await storeEvents(
          tx,
          before,
          await decideNaming(tx, before.projectId, (naming) =>
            decide(
              before,
              {
                kind: "place in state",
                to: back.stateId,
                note: `The verdict on ${row.reference} was undone.`,
              },
              context(naming),
            ),
          ),
        )
      : before;
    await storeEvents(
      tx,
      standing,
      await decideNaming(tx, before.projectId, (naming) =>
        decide(
          standing,
          { kind: "withdraw", note: `The verdict on ${row.reference} was undone.` },
          context(naming),
        ),
      ),
    );
  }
}
