import type { Instant } from "@/core/calendar/instant";
import type { AskedItem } from "@/core/condition/facts";
import type { MoveAnswers } from "@/core/item/command";
import type { ItemEvent } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import { applyEvent, staysOf } from "@/core/item/snapshot";
import { standingEvents } from "@/core/item/standing-events";
import {
  requirementContext,
  requirementsOf,
  whoMay,
  type Actor,
  type MoveContext,
} from "./decide-move";
import type { FollowUpKind } from "./follow-ups/table";
import { stateOf, transitionBetween, type Workflow } from "./workflow";
import type { StateId } from "./state";
import { type RequirementKind, unmet } from "./requirements/table";

/** Why a move of the past would not have been made under a draft. */
export interface PastRefusal {
  itemId: string;
  at: Instant;
  actorId: string | null;
  from: StateId;
  to: StateId;
  /** The requirement, or that the move does not exist or is not for that person. */
  by: RequirementKind | "no such move" | "not for them" | "state is gone";
  transitionId: string | null;
  sentence: string;
}

/** What a draft would have done to the moves of a stretch of the past. */
export interface Replay {
  moves: number;
  allowed: number;
  refusals: PastRefusal[];
  /** How often each follow-up would have run. */
  followUps: Partial<Record<FollowUpKind, number>>;
}

/**
 * What the replay asks for about people and other items; it judges by what is known of them now.
 */
export interface ReplayContext extends Omit<MoveContext, "workflow" | "actor" | "around"> {
  actorOf: (personId: string | null) => Actor;
  aroundOf: (itemId: string, everIn: readonly StateId[]) => Omit<AskedItem, "item">;
}

/**
 * Holds every move of the past since an instant against a draft, with the answers that were given
 * then: the fields as they were after the move, the reason and the outcome. What nobody can know
 * any more (limits of that day, ticks of an agreement that did not exist) counts as: limits kept,
 * nothing ticked.
 * @param histories each item's events, oldest first, from its creation
 */
export function replayMoves(
  workflow: Workflow,
  histories: readonly (readonly ItemEvent[])[],
  since: Instant,
  context: ReplayContext,
): Replay {
  const replay: Replay = { moves: 0, allowed: 0, refusals: [], followUps: {} };
  const known = new Set(workflow.states.map((s) => s.id));
  for (const events of histories) replayItem(events, { workflow, since, context, known, replay });
  return replay;
}

/** What the past is held against, and where the findings go. */
interface Against {
  workflow: Workflow;
  since: Instant;
  context: ReplayContext;
  /** The states of the workflow. */
  known: ReadonlySet<StateId>;
  replay: Replay;
}

/** Events that belong to one command stand together; a move's own changes come before it. */
function replayItem(events: readonly ItemEvent[], against: Against): void {
  let before: ItemSnapshot | null = null;
  const everIn: StateId[] = [];
  // What was undone was no choice that stood.
  const standing = new Set(standingEvents(events));
  for (let i = 0; i < events.length;) {
    let end = i + 1;
    while (end < events.length && events[end].commandId === events[i].commandId) end += 1;
    const command = events.slice(i, end);
    const snapshot: ItemSnapshot | null = before;
    const after: ItemSnapshot = command.reduce<ItemSnapshot | null>(applyEvent, snapshot)!;
    const move = command.find((e) => e.kind === "moved");
    if (move && snapshot && move.at >= against.since && isChoice(move) && standing.has(move))
      replayMove({ before: snapshot, after, move, command, everIn }, against);
    if (command.some((e) => e.kind === "undone"))
      everIn.splice(0, everIn.length, ...staysOf(events.slice(0, end)).map((s) => s.stateId));
    else if (everIn.at(-1) !== after.stateId) everIn.push(after.stateId);
    before = after;
    i = end;
  }
}

/** Moves that somebody chose; undoing and changes of the process are no choices. */
const isChoice = (move: ItemEvent) => move.cause === "person" || move.cause === "demo";

/** A move of the past, with the item before and after its command. */
interface PastMove {
  before: ItemSnapshot;
  after: ItemSnapshot;
  move: Extract<ItemEvent, { kind: "moved" }>;
  command: readonly ItemEvent[];
  everIn: readonly StateId[];
}

function replayMove(
  { before, after, move, command, everIn }: PastMove,
  { workflow, context, known, replay }: Against,
): void {
  replay.moves += 1;
  const [from, to] = [move.old.stateId, move.new.stateId];
  const refuse = (by: PastRefusal["by"], sentence: string, transitionId: string | null = null) =>
    replay.refusals.push({
      itemId: before.id,
      at: move.at,
      actorId: move.actorId,
      from,
      to,
      by,
      transitionId,
      sentence,
    });
  if (!known.has(from) || !known.has(to))
    return void refuse("state is gone", "One of its states is not in the draft.");
  const transition = transitionBetween(workflow, from, to);
  if (!transition)
    return void refuse(
      "no such move",
      `The draft has no move from ${stateOf(workflow, from).name} to ${stateOf(workflow, to).name}.`,
    );
  const full: MoveContext = {
    ...context,
    workflow,
    actor: context.actorOf(move.actorId),
    around: context.aroundOf(before.id, everIn),
    asker: {
      ...context.asker,
      personId: move.actorId,
      teamIds: context.actorOf(move.actorId).teamIds,
      now: move.at,
    },
  };
  const notForThem = whoMay(transition, before, full);
  if (notForThem) return void refuse("not for them", notForThem.sentence, transition.id);
  const comment = command.find((e) => e.kind === "commented")?.new.body;
  const answers: MoveAnswers = {
    reason: move.note ?? undefined,
    outcome: after.outcome ?? undefined,
    comment,
  };
  // The item as the rules would have seen it: its fields after the answers, still where it was.
  const seen: ItemSnapshot = {
    ...after,
    stateId: before.stateId,
    stateKind: before.stateKind,
    enteredStateAt: before.enteredStateAt,
    openBlockers: before.openBlockers,
  };
  for (const requirement of requirementsOf(
    transition,
    stateOf(workflow, from),
    stateOf(workflow, to),
  )) {
    const refusal = unmet(
      requirement,
      requirementContext(
        {
          before,
          after: seen,
          answers,
          from: stateOf(workflow, from),
          to: stateOf(workflow, to),
        },
        full,
      ),
    );
    if (refusal) return void refuse(requirement.kind, refusal.sentence, transition.id);
  }
  replay.allowed += 1;
  for (const { kind } of transition.followUps)
    replay.followUps[kind] = (replay.followUps[kind] ?? 0) + 1;
}

/**
 * What the stored draft would have done to the moves of the last days, with the keys of the items
 * behind each refusal.
 */
export interface ReplayView extends Replay {
  days: number;
  keys: Record<string, string>;
}
