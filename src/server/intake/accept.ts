import { cutText } from "@/core/formats/cut-text";
import { listWords } from "@/core/formats/list-words";
import { and, eq, isNull, ne } from "drizzle-orm";
import { filledFields, type FilledFields } from "@/core/intake/filled-fields";
import { missingForNow, placementOf } from "@/core/intake/placement";
import type { Acceptance } from "@/core/intake/acceptance";
import { partsTaken } from "@/core/intake/part-suggestion";
import type { ItemCommand } from "@/core/item/command";
import type { ItemSnapshot } from "@/core/item/fields";
import { NEW_ITEM, type NewItem } from "@/core/item/new-item";
import { refuse } from "@/core/workflow/refusal";
import { stateOf, statesInOrder, transitionsFrom } from "@/core/workflow/workflow";
import { isInProgress, type StateId } from "@/core/workflow/state";
import type { Transaction } from "@/db/connection";
import { itemEvent, itemType, report } from "@/db/schema";
import { allThroughDoor, throughDoor } from "../item/door";
import { enterAlong, enterNew } from "../item/enter";
import type { Along, Errand, Place } from "../item/errand";
import { loadOwnFields } from "../item/own-fields";
import { seenItem } from "../item/seen-item";
import { loadTerms } from "../item/terms/load";
import type { ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, Refused } from "../refused";
import { v7 as newId } from "uuid";

type ReportRow = typeof report.$inferSelect;

/** The verdict that makes an item. */
interface Verdict {
  commandId: string;
  /** Why the item goes beyond a firm limit. */
  overrideReason?: string;
}

/**
 * Makes the item of an accepted report, in the place that follows from where it was found. All of
 * it, or nothing.
 */
export async function acceptReport({
  tx,
  viewer,
  access,
  row,
  acceptance,
  by,
}: {
  tx: Transaction;
  viewer: Viewer;
  access: ProjectAccess;
  row: ReportRow;
  acceptance: Acceptance;
  by: Verdict;
}): Promise<ItemSnapshot> {
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
  const typeThere = parent ? await taskType(tx, access.project.id) : fields.typeId;
  const ownFields = await loadOwnFields(tx, access.project.id);
  const filled = filledFields(row, ownFields, typeThere);
  const taken = async () => partsTaken(row, await loadTerms(tx, access.project.id));
  const base = {
    ...NEW_ITEM,
    ...fields,
    parts: fields.parts ?? (await taken()),
    own: filled.own,
    description: describe(row, filled),
    place: area || row.place || null,
  };
  const make = (fields: NewItem, at: Place) =>
    makeItem({ tx, viewer, access, by, fields, place: at });
  if (parent) {
    const typeId = typeThere;
    const { id: parentId, teamId } = parent;
    const task = await make({ ...base, typeId, parentId, teamId: base.teamId ?? teamId }, "last");
    if (plan.retestHours !== null)
      await make(
        {
          ...NEW_ITEM,
          title: cutText(`Test again: ${base.title}`, 300),
          typeId,
          parentId,
          teamId,
          remainingHours: plan.retestHours,
        },
        "last",
      );
    return task;
  }
  const created = await make(
    base,
    place.at === "top" ? "first" : place.at === "bottom" ? "last" : { below: place.itemId },
  );
  const along = { itemId: created.id, access };
  if (plan.cameFrom) return linkOrigin({ tx, viewer, created: along, originId: plan.cameFrom, by });
  return plan.onBoard || onBoard ? pullAtOnce(tx, viewer, along, by) : created;
}

const BY_VERDICT = { cause: "verdict" } as const;

async function makeItem({
  tx,
  viewer,
  access,
  by: { commandId, overrideReason },
  fields,
  place,
}: {
  tx: Transaction;
  viewer: Viewer;
  access: ProjectAccess;
  by: Verdict;
  fields: NewItem;
  place: Place;
}): Promise<ItemSnapshot> {
  return throughDoor(tx, viewer, {
    on: await enterNew(tx, access, fields.typeId, newId()),
    commandId,
    ask: { kind: "create", fields, place, overrideReason },
    made: BY_VERDICT,
  });
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

export async function taskType(tx: Transaction, projectId: string): Promise<string> {
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

async function linkOrigin({
  tx,
  viewer,
  created,
  originId,
  by: { commandId },
}: {
  tx: Transaction;
  viewer: Viewer;
  created: Along;
  originId: string;
  by: Verdict;
}): Promise<ItemSnapshot> {
  const { project } = created.access;
  const origin = await seenItem(tx, viewer, project.id, originId);
  if (!origin)
    throw invalid("The item it came from is not in this project.", "Choose another, or none.");
  return throughDoor(tx, viewer, {
    on: created,
    commandId,
    ask: { kind: "link", linkKind: "came from", otherKey: `${project.key}-${origin.number}` },
    made: BY_VERDICT,
  });
}

/**
 * From move to move out of the backlog into the first state in progress; what a rule asks for is
 * the triager's to answer first.
 */
export async function pullAtOnce(
  tx: Transaction,
  viewer: Viewer,
  created: Along,
  { commandId, overrideReason }: Verdict,
): Promise<ItemSnapshot> {
  const entered = await enterAlong(tx, created);
  const { workflow, before } = entered;
  const order = statesInOrder(workflow);
  const onward = transitionsFrom(workflow, before.stateId).filter((t) =>
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
  return throughDoor(tx, viewer, {
    on: entered,
    commandId,
    ask: {
      kind: "move",
      from: before.stateId,
      to: first.to,
      overrideReason,
      answers: {
        reason: "It is begun at once.",
        comment: "It is begun at once.",
        ...(before.assigneeId ? { assigneeId: before.assigneeId } : {}),
      },
    },
    made: BY_VERDICT,
  });
}

/** The report as the description of its item, in Markdown. */
/** What of a report stands in no field of its own. */
function describe(row: ReportRow, filled: FilledFields): string {
  const left = row.answers.filter(({ questionId }) => !filled.answers.has(questionId));
  const parts = [row.happened, ...left.map((a) => `**${a.label}** ${a.value}`)];
  if (row.reproduce && !filled.steps)
    parts.push(`### How to make it happen again\n\n${row.reproduce}`);
  if (row.place) parts.push(`### Where\n\n${row.place}`);
  parts.push(`Reported as ${row.reference}.`);
  return parts.join("\n\n");
}

/**
 * Takes back what accepting made: the item, the task for testing again, and the move onto the
 * board, as long as nobody has done anything since.
 */
export async function withdrawAccepted({
  tx,
  viewer,
  access,
  row,
  commandId,
}: {
  tx: Transaction;
  viewer: Viewer;
  access: ProjectAccess;
  row: ReportRow;
  commandId: string;
}): Promise<void> {
  const others = await tx
    .select({ reference: report.reference })
    .from(report)
    .where(and(eq(report.itemId, row.itemId!), ne(report.id, row.id)))
    .orderBy(report.receivedAt);
  if (others.length > 0)
    throw new Refused(
      refuse(
        "in use",
        `${listWords(
          others.map((o) => o.reference),
          "and",
        )} ${others.length === 1 ? "was" : "were"} merged into its item.`,
        others.length === 1 ? "Undo that verdict first." : "Undo those verdicts first.",
      ),
    );
  const made = await tx
    .selectDistinct({ itemId: itemEvent.itemId })
    .from(itemEvent)
    .where(and(eq(itemEvent.commandId, commandId), eq(itemEvent.kind, "created")))
    .orderBy(itemEvent.itemId);
  const note = `The verdict on ${row.reference} was undone.`;
  const ready = (itemId: string, command: ItemCommand): Errand => ({
    on: { itemId, access },
    commandId: newId(),
    ask: { kind: "prepared", command },
    made: { cause: "undo" },
  });
  for (const { itemId } of made) {
    const back = await stateBefore(tx, itemId, commandId);
    const putBack = back ? [ready(itemId, { kind: "place in state", to: back, note })] : [];
    await allThroughDoor(tx, viewer, [...putBack, ready(itemId, { kind: "withdraw", note })]);
  }
}

/**
 * The state that the move onto the board took an item from, which was part of the verdict; null
 * where there was none, and where somebody has done anything since: they have started.
 */
async function stateBefore(
  tx: Transaction,
  itemId: string,
  commandId: string,
): Promise<StateId | null> {
  const events = await tx
    .select({ kind: itemEvent.kind, commandId: itemEvent.commandId, old: itemEvent.old })
    .from(itemEvent)
    .where(eq(itemEvent.itemId, itemId))
    .orderBy(itemEvent.seq);
  const moved = events.find((e) => e.kind === "moved");
  const alone = events.every((e) => e.commandId === commandId);
  return moved && alone ? (moved.old as { stateId: StateId }).stateId : null;
}
