import type { MoveAnswers } from "@/core/item/command";
import type { ItemSnapshot } from "@/core/item/fields";
import { followUpChanges } from "./follow-ups/apply";
import { requirementContext, requirementsOf, whoMay, type MoveContext } from "./decide-move";
import { stateOf, transitionsFrom, type Transition, type Workflow } from "./workflow";
import type { StateId } from "./state";
import type { Ask } from "./refusal";
import { type Requirement, unmet } from "./requirements/table";

/** A requirement held against an item, with why it does not hold. */
export interface TriedRequirement {
  requirement: Requirement;
  met: boolean;
  /** Empty when it holds. */
  reason: string;
  /** What may be answered so that it holds. */
  asks: Ask[];
}

/** A move held against an item: nothing is stored. */
export interface TriedMove {
  transition: Transition;
  to: StateId;
  /** Null when this person may make it. */
  notForYou: string | null;
  requirements: TriedRequirement[];
  possible: boolean;
}

/** Every move out of where an item is, with each of its requirements answered yes or no. */
export function tryMoves(
  workflow: Workflow,
  item: ItemSnapshot,
  answers: MoveAnswers,
  context: Omit<MoveContext, "workflow">,
): TriedMove[] {
  const full: MoveContext = { ...context, workflow };
  const from = stateOf(workflow, item.stateId);
  const after = withAnswers(item, answers);
  return transitionsFrom(workflow, item.stateId).map((transition) => {
    const to = stateOf(workflow, transition.to);
    const requirements = requirementsOf(transition, from, to).map(
      (requirement): TriedRequirement => {
        const refusal = unmet(
          requirement,
          requirementContext(
            {
              before: item,
              after: { ...after, outcome: answers.outcome ?? null },
              answers,
              from,
              to,
            },
            full,
          ),
        );
        return {
          requirement,
          met: refusal === null,
          reason: refusal ? `${refusal.sentence} ${refusal.help}` : "",
          asks: refusal?.asks ?? [],
        };
      },
    );
    const notForYou = whoMay(transition, item, full)?.sentence ?? null;
    return {
      transition,
      to: to.id,
      notForYou,
      requirements,
      possible: notForYou === null && requirements.every((r) => r.met),
    };
  });
}

/** The item with what was answered; what is left empty stays as it is. */
function withAnswers(item: ItemSnapshot, { own, ticks: _, ...answers }: MoveAnswers): ItemSnapshot {
  const said = Object.entries(answers).filter(
    ([field, value]) => field in item && value !== undefined && value !== "",
  );
  return { ...item, ...Object.fromEntries(said), own: { ...item.own, ...own } };
}

/** The item as it would be after a move that was tried. */
export function afterTry(
  workflow: Workflow,
  item: ItemSnapshot,
  tried: TriedMove,
  { answers, actorId }: { answers: MoveAnswers; actorId: string },
): ItemSnapshot {
  const to = stateOf(workflow, tried.to);
  const moved: ItemSnapshot = {
    ...withAnswers(item, answers),
    outcome: answers.outcome ?? null,
    stateId: to.id,
    stateKind: to.kind,
    ticks: [],
    approvals: [],
  };
  const changes = followUpChanges(tried.transition.followUps, moved, {
    actorId,
    previousAssigneeId: item.assigneeId,
    leastLoaded: {},
    nextInTurn: {},
    waitsFor: [],
    newBlockId: () => "tried",
    newCommentId: () => "tried",
  });
  return changes.reduce<ItemSnapshot>(
    (now, c) => (c.kind === "changed" ? { ...now, [c.field]: c.new } : now),
    moved,
  );
}
