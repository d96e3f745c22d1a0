import { and, eq, gt, inArray } from "drizzle-orm";
import type { ItemCommand } from "@/core/item/command";
import type { DecisionContext } from "@/core/item/decide";
import type { CreatedData, Dependency } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import { historyAsCalledNow } from "@/core/item/terms/current-name";
import { asItWas, lastSteps } from "@/core/item/undo";
import {
  statesInOrder,
  transitionBetween,
  type Transition,
  type Workflow,
} from "@/core/workflow/workflow";
import type { Transaction } from "@/db/connection";
import { itemEvent } from "@/db/schema";
import { enterProject } from "../people/access";
import { checkMembers } from "../people/belonging";
import type { Principal } from "../people/viewer";
import { changingProject } from "./change-project";
import { changingType } from "./change-type";
import { workflowOf, type EnteredItem } from "./enter";
import type { Ask, Entered, Errand } from "./errand";
import { takeNumber } from "./key";
import { linkCommand } from "./links";
import { moveNeeds } from "./move-needs";
import type { Naming } from "./naming";
import { initialOwn, loadOwnFields, newlyNamed } from "./own-fields";
import { refuseCircle, waitedFor } from "./around";
import { placeInState } from "./place";
import { checkReferences, parentsOf } from "./references";
import { historyOf } from "./history";
import { sprintForNew } from "../plan/timeboxes";
import { timeCommand } from "../time/time-command";
import { fileCommand } from "./file-command";
import { changingTalk, saying } from "./talk";
import { bringingBack, withdrawing } from "./withdraw";
import { seesOther } from "./seen-item";
import { withAgreedTerms } from "./terms/agreed";
import { loadTerms } from "./terms/load";
import { invalid } from "../refused";
import { v7 as newId } from "uuid";

/** Everything that a decision on an errand needs, and nothing is read after it. */
export interface Gathered {
  command: ItemCommand;
  /** Of a move. */
  transition: Transition | undefined;
  contextWith: (naming: Naming) => DecisionContext;
}

/**
 * Gathers what the core needs to decide: the one place that reads it. What is named must be there.
 * Limits are asked when it is known what changes (`keep-limits.ts`).
 * @throws Refused where something that is named is not there
 */
export async function gather(
  tx: Transaction,
  by: Principal,
  entered: Entered,
  errand: Pick<Errand, "ask" | "commandId" | "made">,
): Promise<Gathered> {
  const { itemId, access, workflow, before } = entered;
  const { made = { cause: errand.ask.kind === "undo" ? "undo" : "person" } } = errand;
  const command = await commandOf({
    tx,
    by,
    entered,
    ask: errand.ask,
    byPerson: made.cause === "person",
  });
  const transition =
    command.kind === "move" && before
      ? transitionBetween(workflow, before.stateId, command.to)
      : undefined;
  if (command.kind === "move") {
    command.because = made.because;
    await checkReferences(tx, access.project.id, command.answers, before);
  }
  if (command.kind === "edit") {
    await checkReferences(tx, access.project.id, command.changes, before);
    command.changes = await withAgreedTerms(
      entered.terms ?? (() => loadTerms(tx, access.project.id)),
      command.changes,
      made.cause === "person" ? before : null,
    );
  }
  const decidedBy = await workflowDeciding(tx, command, { ...entered, workflow });
  const changedSince = await fieldsChangedSince(tx, before, command);
  const needs = await moveNeeds({ tx, viewer: by, access, before, transition });
  const own = ownValues(command);
  if (command.kind === "edit" && Object.keys(own).length > 0)
    needs.ownFields = await loadOwnFields(tx, access.project.id);
  if (before)
    await checkMembers(tx, access.project.id, newlyNamed(needs.ownFields, own, before.own));
  if (command.kind === "move" && transition?.followUps.some((f) => f.kind === "put on top"))
    command.rank = await placeInState(
      tx,
      by,
      { projectId: access.project.id, stateId: command.to },
      "first",
    );
  return {
    command,
    transition,
    contextWith: ({ vocabulary, nameOf, teamName }) => ({
      itemId,
      // Clocks of two machines may differ a little; the history of an item never runs backwards.
      at: Math.max(Date.now(), before?.updatedAt ?? 0),
      actorId: by.personId,
      cause: made.cause,
      commandId: errand.commandId,
      changedSince: () => changedSince,
      workflow: decidedBy,
      ...needs,
      vocabulary,
      nameOf: (id) => (id === by.personId ? by.name : nameOf(id)).split(" ")[0],
      teamName,
    }),
  };
}

/** What becomes another type, or goes to another project, is decided by the workflow there. */
async function workflowDeciding(
  tx: Transaction,
  command: ItemCommand,
  { access, workflow, before }: Entered,
): Promise<Workflow> {
  if (command.kind === "change type") return workflowOf(tx, access.project.id, command.typeId);
  if (command.kind !== "change project") return workflow;
  return workflowOf(tx, command.becomes.projectId, command.fields.typeId ?? before!.typeId);
}

/** The own fields that a command sets. */
function ownValues(command: ItemCommand): Readonly<Record<string, unknown>> {
  if (command.kind === "edit") return command.own ?? {};
  return command.kind === "move" ? (command.answers.own ?? {}) : {};
}

/** What is asked, as the core understands it: with ids, ranks and everything that keys stand for. */
async function commandOf({
  tx,
  by,
  entered,
  ask,
  byPerson,
}: {
  tx: Transaction;
  by: Principal;
  entered: Entered;
  ask: Ask;
  byPerson: boolean;
}): Promise<ItemCommand> {
  if (ask.kind === "prepared") return ask.command;
  if (ask.kind === "create") return creation(tx, by, entered, { ...ask, byPerson });
  if (!entered.before) throw new Error(`"${ask.kind}" is asked of an item that is to be made`);
  const there: EnteredItem = { ...entered, before: entered.before };
  const { before } = there;
  switch (ask.kind) {
    case "place":
      return { kind: "rank", rank: await rankAt(tx, by, before, ask) };
    case "put under":
      return { kind: "put under", ...(await parentsOf(tx, by, there, ask.parentKey)) };
    case "comment":
    case "ask":
      return saying(tx, by, there, ask);
    case "edit comment":
    case "take back comment":
    case "close talk":
      return changingTalk(tx, there, ask);
    case "block": {
      const { dependencyId, ...block } = ask;
      const dependency = dependencyId && (await dependencyOf(tx, by, there, dependencyId));
      return { ...block, blockId: newId(), ...(dependency ? { dependency } : {}) };
    }
    case "link":
    case "unlink":
      return linkCommand(tx, by, there, ask);
    case "remove file":
    case "put file back":
      return fileCommand(tx, there, ask);
    case "record time":
    case "remove time":
      return timeCommand(tx, by, there, ask);
    case "withdraw":
      return withdrawing(tx, by, there, ask);
    case "bring back":
      return bringingBack(tx, there);
    case "change type":
      return changingType(tx, there, ask);
    case "change project":
      return changingProject(tx, by, there, { ...ask, byPerson });
    case "undo":
      return undoing(tx, by, there, ask.commandId);
    case "move":
      return { ...ask, commentId: newId() };
    case "edit":
    case "lift":
    case "ready":
    case "tick":
    case "meet":
    case "approve":
      return ask;
  }
}

/** What an item is said to wait for. @throws Refused where it does not, or not any more */
async function dependencyOf(
  tx: Transaction,
  by: Principal,
  { before }: EnteredItem,
  otherId: string,
): Promise<Dependency> {
  const seen = await seesOther(tx, by, otherId);
  const waits = await waitedFor(tx, before.id);
  const found = waits.find(({ itemId }) => seen && itemId === otherId);
  if (!found)
    throw invalid(
      "It does not wait for that item, or that was delivered already.",
      "Say first that it waits for it.",
    );
  return found;
}

/** Directly below another item, or above one; or on top of its state. Beside itself it stays. */
function rankAt(
  tx: Transaction,
  by: Principal,
  item: ItemSnapshot,
  { below, above }: { below: string | null; above?: string },
) {
  if ((below ?? above) === item.id) return item.rank;
  if (below !== null) return placeInState(tx, by, item, { below });
  return placeInState(tx, by, item, above === undefined ? "first" : { above });
}

/** A new item in the first state of its type's workflow, with the project's next number. */
async function creation(
  tx: Transaction,
  by: Principal,
  { access, workflow }: Entered,
  {
    fields,
    place,
    overrideReason,
    byPerson,
  }: Extract<Ask, { kind: "create" }> & { byPerson: boolean },
): Promise<ItemCommand> {
  const projectId = access.project.id;
  await checkReferences(tx, projectId, fields, null);
  const sprintId = fields.sprintId ?? (await sprintForNew(tx, access.project, fields.typeId));
  const own = await initialOwn({
    reader: tx,
    projectId,
    fields: await loadOwnFields(tx, projectId),
    typeId: fields.typeId,
    given: fields.own,
    asksRequired: byPerson,
  });
  const [first] = statesInOrder(workflow);
  const rank = await placeInState(tx, by, { projectId, stateId: first.id }, place);
  const number = await takeNumber(tx, projectId);
  const data: CreatedData = {
    ...(await withAgreedTerms(() => loadTerms(tx, projectId), { ...fields, sprintId }, null)),
    own,
    projectId,
    number,
    stateId: first.id,
    stateKind: first.kind,
    rank,
  };
  return { kind: "create", data, overrideReason };
}

/** Taking back a command; under an item that waits for this one meanwhile it does not go back. */
async function undoing(
  tx: Transaction,
  by: Principal,
  { access, before }: Entered & { before: ItemSnapshot },
  undoneId: string,
): Promise<ItemCommand> {
  const told = await historyOf(tx, before.id);
  const back = lastSteps(told, undoneId).find((event) => event.kind === "changed project");
  const goesTo = back?.old.projectId ?? access.project.id;
  // Whoever takes it back to where it was may still do that there.
  if (back)
    await enterProject({ reader: tx, viewer: by, where: { id: goesTo }, action: "edit item" });
  const history = historyAsCalledNow(told, await loadTerms(tx, goesTo));
  const was = asItWas(history, lastSteps(history, undoneId));
  if (was?.parentId && was.parentId !== before.parentId)
    await refuseCircle(tx, { waiting: was.parentId, for: before.id });
  return { kind: "undo", undoneId, history };
}

/** The fields that others changed since the version that an edit was made on. */
async function fieldsChangedSince(
  tx: Transaction,
  before: ItemSnapshot | null,
  command: ItemCommand,
): Promise<string[]> {
  if (!before || command.kind !== "edit" || command.seenVersion >= before.version) return [];
  const rows = await tx
    .select({ field: itemEvent.field, new: itemEvent.new })
    .from(itemEvent)
    .where(
      and(
        eq(itemEvent.itemId, before.id),
        gt(itemEvent.seq, command.seenVersion),
        inArray(itemEvent.kind, ["changed", "own changed", "undone"]),
      ),
    );
  return rows.flatMap((r) => r.field ?? restoredFields(r.new as Partial<ItemSnapshot>));
}

/** The fields that an undone step brought back, own ones by their ids. */
const restoredFields = (was: Partial<ItemSnapshot>): string[] => [
  ...Object.keys(was),
  ...Object.keys(was.own ?? {}),
];
