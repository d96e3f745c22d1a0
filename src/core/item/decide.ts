import type { Instant } from "@/core/calendar/instant";
import { decideMove, type MoveContext } from "@/core/workflow/decide-move";
import { isRefusal, refuse, type Refusal } from "@/core/workflow/refusal";
import { followUpChanges } from "@/core/workflow/follow-ups/apply";
import type { FollowUpContext } from "@/core/workflow/follow-ups/kind";
import { isInProgress, type State, type StateKind } from "@/core/workflow/state";
import { isReturn, stateOf, transitionsFrom } from "@/core/workflow/workflow";
import type { ItemCommand } from "./command";
import type { Cause, Dependency, FileNamed, ItemChange, ItemEvent } from "./event";
import { decideTime } from "@/core/time/decide-time";
import { decideTalk } from "@/core/talk/decide-talk";
import { decideEdit, ownChanges, type EditContext } from "./decide-edit";
import { EMPTIED, withoutText } from "./event-texts";
import { refuseWithoutDate } from "./fixed-date";
import type { EditableField, ItemSnapshot } from "./fields";
import { keepsStanding } from "./keeps-standing";
import { asItWas, lastSteps, restored } from "./undo";

export interface DecisionContext extends MoveContext, Omit<EditContext, "ownFields"> {
  itemId: string;
  at: Instant;
  actorId: string | null;
  cause: Cause;
  commandId: string;
  followUps: FollowUpContext;
  /** Whether the sprint that the item is in was ended. */
  inEndedSprint: boolean;
}

/**
 * The one place where a command on an item becomes events or a refusal. Pure: the same item,
 * command and context always give the same answer. An edit that changes nothing gives no events.
 */
export function decide(
  item: ItemSnapshot | null,
  command: ItemCommand,
  context: DecisionContext,
): ItemEvent[] | Refusal {
  const changes = changesFor(item, command, context);
  if (isRefusal(changes)) return changes;
  const { itemId, at, actorId, cause, commandId } = context;
  const base = item?.version ?? 0;
  return changes.map((change, i) => ({
    ...change,
    itemId,
    seq: base + i + 1,
    at,
    actorId,
    cause,
    commandId,
  }));
}

function changesFor(
  item: ItemSnapshot | null,
  command: ItemCommand,
  context: DecisionContext,
): ItemChange[] | Refusal {
  if (command.kind === "create") {
    if (item) return refuse("invalid", "This item exists already.", "Open it instead.");
    if (!command.data.title.trim())
      return refuse("invalid", "An item needs a title.", "Say in a few words what it is.");
    return (
      refuseWithoutDate(null, command.data) ?? [
        { kind: "created", new: { ...command.data, title: command.data.title.trim() } },
      ]
    );
  }
  if (!item)
    return refuse("not found", "There is no such item here.", "It may belong to another project.");
  if (item.withdrawnAt !== null && command.kind !== "empty" && command.kind !== "bring back")
    return refuse("withdrawn", "This item is withdrawn.", "Bring it back first.");

  switch (command.kind) {
    case "move":
      return move(item, command, context);
    case "edit":
      return decideEdit(item, command, context);
    case "put under":
      return (command.parent?.parentId ?? null) === item.parentId
        ? []
        : [{ kind: "put under", old: command.before, new: command.parent }];
    case "rank":
      return command.rank === item.rank
        ? []
        : [{ kind: "ranked", old: item.rank, new: command.rank }];
    case "comment":
    case "edit comment":
    case "take back comment":
    case "close talk":
      return decideTalk(command, context.actorId);
    case "block": {
      const cause = command.cause.trim();
      if (!cause)
        return refuse("invalid", "A blocker needs a cause.", "Say what the item waits for.");
      if (item.stateKind === "finished")
        return refuse("invalid", "A finished item cannot be blocked.", "Reopen it first.");
      if (item.stateKind === "unstarted")
        return refuse(
          "invalid",
          "What nobody has started is not blocked.",
          "Say what it waits for with a link; it is a blocker once it is started.",
        );
      if (command.dependency && blocksAlready(item, command.dependency))
        return refuse("invalid", "This blocks it already.", "Nothing more to do.");
      return [
        {
          kind: "blocked",
          new: {
            blockId: command.blockId,
            cause,
            waitingFor: command.waitingFor?.trim() || null,
            ...(command.dependency ? { dependency: command.dependency } : {}),
          },
        },
      ];
    }
    case "ready":
      return ready(item, command.on);
    case "lift": {
      const blocker = item.openBlockers.find((b) => b.id === command.blockId);
      if (!blocker)
        return refuse(
          "blocker unknown",
          "This blocker has been lifted already.",
          "Nothing more to do.",
        );
      return [{ kind: "lifted", old: { blockId: blocker.id, cause: blocker.cause } }];
    }
    case "link":
      if (command.otherId === item.id)
        return refuse("invalid", "An item cannot be linked to itself.", "Choose another item.");
      return [{ kind: "linked", new: linkData(command) }];
    case "unlink":
      return [{ kind: "unlinked", old: linkData(command) }];
    case "tick":
      return tick(item, command, context);
    case "meet":
      return meet(item, command);
    case "approve":
      return approve(item, command, context);
    case "report":
      return command.facts.map((fact) => ({ kind: "reported", new: fact, note: command.source }));
    case "hold":
      return [
        {
          kind: "held",
          new: { transitionId: command.transitionId, to: command.to },
          note: command.note,
        },
      ];
    case "place in state": {
      const to = stateOf(context.workflow, command.to);
      if (to.id === item.stateId && to.kind === item.stateKind) return [];
      return [
        {
          kind: "moved",
          old: { stateId: item.stateId, kind: item.stateKind },
          new: { stateId: to.id, kind: to.kind, isReturn: false, rank: null },
          note: command.note,
        },
      ];
    }
    case "undo":
      return undo(item, command, context);
    case "empty": {
      const why = command.why.trim();
      if (!why) return refuse("invalid", "Emptying a text needs a reason.", "Say why it goes.");
      if (command.body === EMPTIED)
        return refuse("invalid", "This text has been emptied already.", "Nothing more to do.");
      const old = { textId: command.textId };
      return [{ kind: "emptied", old, new: withoutText(item, command.body), note: why }];
    }
    case "add file":
      return [{ kind: "file added", new: fileNamed(command) }];
    case "remove file":
      return [{ kind: "file removed", old: fileNamed(command) }];
    case "record time":
      return decideTime(item, command, context.actorId);
    case "withdraw":
      return withdraw(item, command.note, stateOf(context.workflow, item.stateId).name);
    case "bring back":
      return bringBack(item, command);
    case "change type":
      return changeType(item, command, stateOf(context.workflow, command.to));
    case "change project":
      return changeProject(item, command, stateOf(context.workflow, command.to));
  }
}

const fileNamed = ({ fileId, name }: FileNamed): FileNamed => ({ fileId, name });

/** Whatever anybody has worked on stays in the figures: it ends with an outcome instead. */
function withdraw(item: ItemSnapshot, note: string, stateName: string): ItemChange[] | Refusal {
  if (item.stateKind === "finished")
    return refuse("in use", `It is finished: it is in ${stateName}.`, "It stays where it ended.");
  if (item.stateKind !== "unstarted")
    return refuse(
      "in use",
      `Work on it has started: it is in ${stateName}.`,
      "Close it with an outcome, or move it back to the backlog first.",
    );
  const why = note.trim();
  if (!why) return refuse("invalid", "Withdrawing needs a reason.", "Say why it goes.");
  return [{ kind: "withdrawn", note: why }];
}

function bringBack(
  item: ItemSnapshot,
  { withdrawnBy, leaves }: Extract<ItemCommand, { kind: "bring back" }>,
): ItemChange[] | Refusal {
  if (item.withdrawnAt === null) return [];
  if (withdrawnBy === "undo")
    return refuse(
      "withdrawn",
      "It was taken back together with the step that had made it.",
      "Judge its report again in Intake, or make it anew.",
    );
  return [
    { kind: "brought back" },
    ...(leaves ? [{ kind: "put under" as const, old: leaves, new: null }] : []),
  ];
}

/** Another type, in a state of its workflow: a type starts and ends nothing. */
function changeType(
  item: ItemSnapshot,
  { typeId, typeName }: Extract<ItemCommand, { kind: "change type" }>,
  to: State,
): ItemChange[] | Refusal {
  if (!keepsStanding(item.stateKind, to.kind)) return standsOtherwise(item, to);
  const changes: ItemChange[] = [];
  if (typeId !== item.typeId)
    changes.push({ kind: "changed", field: "typeId", old: item.typeId, new: typeId });
  if (to.id !== item.stateId)
    changes.push({
      kind: "moved",
      old: { stateId: item.stateId, kind: item.stateKind, ...agreed(item) },
      new: { stateId: to.id, kind: to.kind, isReturn: false, rank: null },
      note: `It is of type ${typeName} now.`,
    });
  return changes;
}

/** Another project, and what has to be otherwise there: a project starts and ends nothing either. */
function changeProject(
  item: ItemSnapshot,
  command: Extract<ItemCommand, { kind: "change project" }>,
  to: State,
): ItemChange[] | Refusal {
  const { was, becomes, fields, own, leaves } = command;
  if (was.projectId === becomes.projectId)
    return refuse("invalid", `It is in ${command.projectName} already.`, "Choose another project.");
  if (!keepsStanding(item.stateKind, to.kind)) return standsOtherwise(item, to);
  const changed = (Object.keys(fields) as EditableField[]).map((field) => ({
    kind: "changed" as const,
    field,
    old: item[field],
    new: fields[field],
  }));
  const cleared = Object.entries(item.own).map(([field, old]) => ({
    kind: "own changed" as const,
    field,
    old,
    new: null,
  }));
  const said = Object.entries(own).map(([field, value]) => ({
    kind: "own changed" as const,
    field,
    old: null,
    new: value,
  }));
  return [
    ...(leaves ? [{ kind: "put under" as const, old: leaves, new: null }] : []),
    { kind: "changed project", old: was, new: becomes },
    ...changed,
    ...cleared,
    ...said,
    {
      kind: "moved",
      old: { stateId: item.stateId, kind: item.stateKind, ...agreed(item) },
      new: { stateId: to.id, kind: to.kind, isReturn: false, rank: null },
      note: `It is in ${command.projectName} now.`,
    },
  ];
}

const standsOtherwise = (item: ItemSnapshot, to: State): Refusal =>
  refuse(
    "invalid",
    `It is ${STANDING[item.stateKind]}; in ${to.name} it would be ${STANDING[to.kind]}.`,
    "Choose a state that begins and ends nothing, and move it afterwards.",
  );

const STANDING: Record<StateKind, string> = {
  unstarted: "not begun",
  waiting: "in progress",
  working: "in progress",
  finished: "finished",
};

function move(
  item: ItemSnapshot,
  command: Extract<ItemCommand, { kind: "move" }>,
  context: DecisionContext,
): ItemChange[] | Refusal {
  const decision = decideMove(item, command, context);
  if (decision.refused) return decision;
  const { workflow } = context;
  const from = stateOf(workflow, item.stateId);
  const to = stateOf(workflow, command.to);
  const changes: ItemChange[] = Object.entries(decision.changes).map(([field, value]) => ({
    kind: "changed",
    field: field as EditableField | "outcome",
    old: item[field as keyof ItemSnapshot],
    new: value,
  }));
  changes.push(...ownChanges(item, decision.own));
  for (const { id, text } of decision.ticked)
    changes.push({ kind: "ticked", new: { policyId: id, text } });
  if (decision.comment)
    changes.push({
      kind: "commented",
      new: { commentId: command.commentId!, body: decision.comment },
    });
  changes.push({
    kind: "moved",
    old: { stateId: from.id, kind: from.kind, ...agreed(item) },
    new: {
      stateId: to.id,
      kind: to.kind,
      isReturn: isReturn(workflow, from.id, to.id),
      rank: command.rank ?? null,
    },
    note: command.because ?? decision.reason,
  });
  // What is open again does not stay in a sprint that was ended; its report keeps it.
  if (from.kind === "finished" && to.kind !== "finished" && context.inEndedSprint)
    changes.push({ kind: "changed", field: "sprintId", old: item.sprintId, new: null });
  if (to.kind === "finished")
    for (const { id, cause } of item.openBlockers)
      changes.push({ kind: "lifted", old: { blockId: id, cause } });
  const moved: ItemSnapshot = {
    ...item,
    ...(decision.changes as Partial<ItemSnapshot>),
    own: { ...item.own, ...decision.own },
    stateId: to.id,
    stateKind: to.kind,
  };
  return [...changes, ...followUpChanges(decision.transition.followUps, moved, context.followUps)];
}

const blocksAlready = ({ openBlockers }: ItemSnapshot, { itemId }: Dependency): boolean =>
  openBlockers.some((blocker) => blocker.dependencyId === itemId);

function ready(item: ItemSnapshot, on: boolean): ItemChange[] | Refusal {
  if ((item.readySince !== null) === on) return [];
  if (!on) return [{ kind: "ready taken back" }];
  if (!isInProgress(item.stateKind))
    return refuse(
      "invalid",
      "Only what is in progress can be ready for its next step.",
      item.stateKind === "finished" ? "This item is finished." : "Pull it first.",
    );
  if (item.openBlockers.length > 0)
    return refuse(
      "invalid",
      `It is blocked: ${item.openBlockers[0].cause}.`,
      "Lift the blocker first.",
    );
  return [{ kind: "marked ready" }];
}

/** The ticks and approvals of an item, where it has any: an undo brings them back. */
function agreed({ ticks, approvals }: ItemSnapshot): {
  ticks?: ItemSnapshot["ticks"];
  approvals?: ItemSnapshot["approvals"];
} {
  return { ...(ticks.length > 0 ? { ticks } : {}), ...(approvals.length > 0 ? { approvals } : {}) };
}

function tick(
  item: ItemSnapshot,
  command: Extract<ItemCommand, { kind: "tick" }>,
  { workflow }: DecisionContext,
): ItemChange[] | Refusal {
  const here = stateOf(workflow, item.stateId);
  const ahead = transitionsFrom(workflow, here.id).map((t) => stateOf(workflow, t.to));
  const policy = [...here.exitPolicies, ...ahead.flatMap((s) => s.entryPolicies)].find(
    (p) => p.id === command.policyId,
  );
  if (!policy)
    return refuse(
      "invalid",
      "This point belongs to no agreement that is in force here.",
      "Look at the item anew: the process may have changed.",
    );
  const ticked = item.ticks.some((t) => t.policyId === policy.id);
  if (ticked === command.on) return [];
  const about = { policyId: policy.id, text: policy.text };
  return [command.on ? { kind: "ticked", new: about } : { kind: "unticked", old: about }];
}

function meet(
  item: ItemSnapshot,
  { criterionId, on }: Extract<ItemCommand, { kind: "meet" }>,
): ItemChange[] | Refusal {
  const criterion = item.criteria.find(({ id }) => id === criterionId);
  if (!criterion)
    return refuse(
      "invalid",
      "This criterion is not there any more.",
      "Look at the item anew: somebody has changed what it is accepted by.",
    );
  if (item.met.some((one) => one.criterionId === criterionId) === on) return [];
  const about = { policyId: criterionId, text: criterion.text, criterion: true } as const;
  return [on ? { kind: "ticked", new: about } : { kind: "unticked", old: about }];
}

function approve(
  item: ItemSnapshot,
  command: Extract<ItemCommand, { kind: "approve" }>,
  { actor }: DecisionContext,
): ItemChange[] | Refusal {
  if (actor.personId === null)
    return refuse("invalid", "An approval is somebody's.", "Sign in to approve.");
  if (command.on && item.assigneeId === actor.personId)
    return refuse(
      "same person",
      "Nobody approves their own work.",
      "Ask somebody else to look at it.",
    );
  const given = item.approvals.some((a) => a.byId === actor.personId);
  if (given === command.on) return [];
  return [
    command.on ? { kind: "approved", new: { role: actor.role } } : { kind: "approval withdrawn" },
  ];
}

/**
 * What a command can leave that is taken back by itself; what was said or computed on the way of a
 * move goes with the move.
 */
const UNDOABLE: ReadonlySet<ItemChange["kind"]> = new Set([
  "changed",
  "own changed",
  "put under",
  "changed project",
  "ranked",
  "blocked",
  "lifted",
  "marked ready",
  "ready taken back",
  "ticked",
  "unticked",
  "approved",
  "approval withdrawn",
  "moved",
  "overrode",
  "undone",
]);

/**
 * Takes back the last command on an item, as long as it was this person's and nothing came after
 * it. The history keeps both: what was done and that it was undone; about the item, and in every
 * figure, it is as if it had not been. Requirements are not asked again on the way back. What
 * somebody said on the way of a move stays said.
 */
function undo(
  item: ItemSnapshot,
  { undoneId, history }: Extract<ItemCommand, { kind: "undo" }>,
  context: DecisionContext,
): ItemChange[] | Refusal {
  const steps = lastSteps(history, undoneId);
  const was = steps.length > 0 ? asItWas(history, steps) : null;
  if (steps.length === 0 || steps.at(-1)!.seq !== item.version)
    return refuse(
      "conflict",
      "Something else has happened to this item since.",
      "Look at its history, then change it by hand.",
    );
  if (steps.some((e) => e.actorId !== context.actorId))
    return refuse("not allowed", "Only your own steps can be undone.", "Ask who did it.");
  const moves = steps.some((e) => e.kind === "moved");
  if (!moves && steps.some((e) => e.kind === "commented"))
    return refuse("invalid", "A comment cannot be undone.", "Write another one.");
  if (!was || steps.some((e) => !UNDOABLE.has(e.kind) && e.kind !== "commented"))
    return refuse("invalid", "This step cannot be undone.", "Change the item by hand.");
  return [
    {
      kind: "undone",
      old: { commandId: undoneId, fromSeq: steps[0].seq, toSeq: item.version },
      new: restored(was, item),
    },
  ];
}

function linkData(command: Extract<ItemCommand, { kind: "link" | "unlink" }>) {
  const { linkId, linkKind, otherId, otherKey, outward } = command;
  return { linkId, kind: linkKind, otherId, otherKey, outward };
}
