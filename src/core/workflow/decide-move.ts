import type { Asker } from "@/core/condition/evaluate";
import type { AskedItem } from "@/core/condition/facts";
import type { Vocabulary } from "@/core/condition/vocabulary";
import type { MoveAnswers } from "@/core/item/command";
import type { EditableField, ItemSnapshot } from "@/core/item/fields";
import type { FrozenEnvironment } from "@/core/ship/environment";
import type { Accepted } from "@/core/ship/acceptance/enough";
import type { HostApproval } from "./requirements/kind";
import type { KnownTest } from "@/core/ship/testing/known-test";
import type { OwnField, OwnValue } from "@/core/item/own-field";
import { fieldsOfType, ownValueProblem } from "@/core/item/own-field";
import { refuse, type Refusal } from "./refusal";
import { demandedOwnField, type LimitMode, type Mover } from "./requirement";
import {
  stateOf,
  transitionBetween,
  transitionsFrom,
  type Transition,
  type Workflow,
} from "./workflow";
import type { State, StateId } from "./state";
import { listWords } from "../formats/list-words";
import { policiesOf } from "./requirements/checklist";
import { unmet, type Requirement } from "./requirements/table";

/** Who makes a move. */
export interface Actor {
  personId: string | null;
  /** A role that works in the project; an administrator counts as a lead. */
  role: "lead" | "member";
  teamIds: readonly string[];
  /** Whether it is the person behind the item's report, who has no account. */
  requester?: boolean;
}

export interface MoveContext {
  workflow: Workflow;
  actor: Actor;
  /** What is known around the item; only read where a requirement asks for it. */
  around: Omit<AskedItem, "item">;
  asker: Asker;
  vocabulary: Vocabulary;
  teamsOf: (personId: string) => readonly string[];
  nameOf: (personId: string) => string;
  teamName: (teamId: string) => string;
  /** Fields of the project's own; only read where a requirement or an answer is about one. */
  ownFields: readonly OwnField[];
  /** Environments that are frozen now; left out where nothing can be. */
  frozen?: readonly FrozenEnvironment[];
  /** Who approved its changes at the code host; left out where nothing asks for it. */
  reviews?: readonly HostApproval[];
  /** What is known of its tests; left out where nothing asks for them. */
  tests?: readonly KnownTest[];
  /** To how many it was shown, and how many accept it; left out where nothing asks for it. */
  acceptance?: Accepted;
}

export interface AllowedMove {
  refused: false;
  transition: Transition;
  /** Fields that the answers set. */
  changes: Partial<Record<EditableField | "outcome", unknown>>;
  /** Own fields that the answers set. */
  own: Record<string, OwnValue>;
  ticked: { id: string; text: string }[];
  comment: string | null;
  reason: string | null;
}

export interface MoveRequest {
  from: StateId;
  to: StateId;
  answers: MoveAnswers;
  overrideReason?: string;
}

/**
 * Whether an item may make a move: the move exists, the person may make it, its requirements hold.
 * Limits are asked afterwards, when it is known what changes. All unmet requirements are asked for together, so a
 * person answers once.
 */
export function decideMove(
  item: ItemSnapshot,
  request: MoveRequest,
  context: MoveContext,
): AllowedMove | Refusal {
  const { workflow } = context;
  const now = stateOf(workflow, item.stateId);
  if (item.stateId !== request.from)
    return refuse(
      "moved meanwhile",
      `Somebody has moved it to ${now.name} meanwhile.`,
      "Look at it where it is now, then move it again if that is still right.",
    );

  const target = workflow.states.find((s) => s.id === request.to);
  const transition = target && transitionBetween(workflow, item.stateId, target.id);
  if (!target || !transition) return noSuchMove(workflow, now, target);
  const notForYou = whoMay(transition, item, context);
  if (notForYou) return notForYou;

  const requirements = requirementsOf(transition, now, target);
  const own = ownAnswers(item, request.answers, requirements, context.ownFields);
  if ("refused" in own) return own as Refusal;
  const after = {
    ...answered(
      item,
      request.answers,
      requirements,
      now.kind === "finished" && target.kind === "finished",
    ),
    own: { ...item.own, ...own },
  };
  const asked = { before: item, after, answers: request.answers, from: now, to: target };
  const open = requirements.flatMap((r) => unmet(r, requirementContext(asked, context)) ?? []);
  if (open.length > 0) {
    const unanswerable = open.find((u) => u.asks.length === 0);
    const asks = open
      .flatMap((u) => u.asks)
      .filter((ask, i, all) => all.findIndex((a) => a.field === ask.field) === i);
    // What no answer can mend is said before anything is asked.
    return unanswerable ?? { ...open[0], asks };
  }

  return {
    refused: false,
    transition,
    changes: Object.fromEntries(
      Object.entries(after).filter(
        ([field, value]) => field !== "own" && value !== item[field as keyof ItemSnapshot],
      ),
    ),
    own,
    ticked: policiesOf(now, target).filter(
      (p) => request.answers.ticks?.includes(p.id) && !item.ticks.some((t) => t.policyId === p.id),
    ),
    comment: requirements.some((r) => r.kind === "comment")
      ? request.answers.comment!.trim()
      : null,
    reason: request.answers.reason?.trim() || null,
  };
}

function noSuchMove(workflow: Workflow, now: State, target: State | undefined): Refusal {
  const next = transitionsFrom(workflow, now.id)
    .filter((t) => t.from !== null)
    .map((t) => stateOf(workflow, t.to).name);
  return refuse(
    "no such move",
    `This workflow has no move from ${now.name} to ${target?.name ?? "there"}.`,
    next.length > 0
      ? `From ${now.name} it can go to ${listWords(next)}.`
      : `Nothing leads out of ${now.name}.`,
  );
}

/**
 * What a transition demands, with what its states ask for where it does not: the points that are
 * agreed between them, on the way forward, and the outcome of a finished state.
 */
export function requirementsOf(
  { from: sources, requirements, followUps }: Transition,
  from: State,
  to: State,
): readonly Requirement[] {
  const demands = (kind: Requirement["kind"]) => requirements.some((r) => r.kind === kind);
  // What goes back, or is closed from anywhere, has not done what was agreed.
  const forward = sources !== null && to.position > from.position;
  const agreement: Requirement[] =
    forward && policiesOf(from, to).length > 0 && !demands("checklist")
      ? [{ kind: "checklist" }]
      : [];
  const names = to.kind === "finished" && to.outcomes.length > 0 && !demands("outcome");
  const outcome: Requirement[] =
    names && !followUps.some((f) => f.kind === "set outcome")
      ? [{ kind: "outcome", allowed: to.outcomes }]
      : [];
  return [...requirements, ...agreement, ...outcome];
}

/** A move that is asked for, as requirements see it. */
export interface AskedMove {
  before: ItemSnapshot;
  after: ItemSnapshot;
  answers: MoveAnswers;
  from: State;
  to: State;
}

/** What requirements of a move are asked with: the move itself, and what is known around it. */
export function requirementContext(asked: AskedMove, context: MoveContext) {
  const { workflow: _workflow, actor: _actor, ...known } = context;
  return { ...asked, ...known };
}

const MOVER_WORDS = (
  mover: Mover,
  context: Pick<MoveContext, "nameOf" | "teamName">,
  item: ItemSnapshot,
): string => {
  switch (mover.kind) {
    case "role":
      return mover.role === "lead" ? "a lead" : "a member";
    case "team":
      return `somebody of ${context.teamName(mover.teamId)}`;
    case "assignee":
      return item.assigneeId ? context.nameOf(item.assigneeId) : "its assignee";
    case "reviewer":
      return item.reviewerId ? context.nameOf(item.reviewerId) : "its reviewer";
    case "requester":
      return "whoever asked for it";
    case "not the assignee":
      return `somebody other than ${item.assigneeId ? context.nameOf(item.assigneeId) : "its assignee"}`;
  }
};

/**
 * Why this person may not make the transition; null when they may, and always when nobody in
 * particular does.
 */
export function whoMay(
  transition: Transition,
  item: ItemSnapshot,
  context: Pick<MoveContext, "actor" | "nameOf" | "teamName">,
): Refusal | null {
  const { personId, role, teamIds, requester } = context.actor;
  const fits = (mover: Mover): boolean => {
    switch (mover.kind) {
      case "role":
        return mover.role === "member" || role === "lead";
      case "team":
        return teamIds.includes(mover.teamId);
      case "assignee":
        return item.assigneeId === personId;
      case "reviewer":
        return item.reviewerId === personId;
      case "requester":
        return requester === true || (personId !== null && item.createdBy === personId);
      case "not the assignee":
        return item.assigneeId !== personId;
    }
  };
  // A requester without an account only makes the moves that are theirs by name.
  if (requester && personId === null) {
    if (transition.who.some((m) => m.kind === "requester")) return null;
  } else if (personId === null || transition.who.length === 0 || transition.who.some(fits))
    return null;
  const words = listWords(transition.who.map((m) => MOVER_WORDS(m, context, item)));
  return refuse("not for you", `“${transition.verb}” is for ${words}.`, `Ask ${words} to do it.`);
}

/**
 * The item's fields with the answers to what the transition asks; answers to anything else have no
 * effect.
 * @param stays whether it goes from one finished state to another, and keeps its outcome
 */
function answered(
  item: ItemSnapshot,
  answers: MoveAnswers,
  requirements: readonly Requirement[],
  stays: boolean,
): ItemSnapshot {
  const after: ItemSnapshot = { ...item, outcome: stays ? item.outcome : null };
  const given = answers as Partial<Record<string, unknown>>;
  for (const r of requirements) {
    const field = r.kind === "filled" ? r.field : r.kind === "different people" ? r.first : null;
    if (!field || demandedOwnField(field) !== null) continue;
    const value = typeof given[field] === "string" ? given[field].trim() : given[field];
    if (value !== undefined && value !== null && value !== "")
      Object.assign(after, { [field]: value });
  }
  if (requirements.some((r) => r.kind === "outcome") && answers.outcome)
    after.outcome = answers.outcome;
  return after;
}

/**
 * The answers for own fields that the transition asks for, each held against what its field takes.
 */
function ownAnswers(
  item: ItemSnapshot,
  answers: MoveAnswers,
  requirements: readonly Requirement[],
  ownFields: readonly OwnField[],
): Record<string, OwnValue> | Refusal {
  const own: Record<string, OwnValue> = {};
  const fields = fieldsOfType(ownFields, item.typeId);
  for (const r of requirements) {
    const id = r.kind === "filled" ? demandedOwnField(r.field) : null;
    const value = id === null ? undefined : answers.own?.[id];
    const field = fields.find((f) => f.id === id);
    if (id === null || value === undefined || !field) continue;
    const problem = ownValueProblem(field, value);
    if (problem)
      return refuse("invalid", problem, "Give it another value.", [
        { field: `own.${id}`, label: field.name, own: field },
      ]);
    own[id] = value;
  }
  return own;
}

/** What a transition says of the limits ahead of it; null where it says nothing. */
export const limitMode = (transition: Transition | undefined): LimitMode | null =>
  transition?.requirements.find((r) => r.kind === "limit ahead")?.mode ?? null;
