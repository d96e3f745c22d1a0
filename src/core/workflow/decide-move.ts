import { brokenFirmLimits, type LimitBreak, type LimitedColumn } from "@/core/board/limit";
import type { MoveAnswers } from "@/core/item/command";
import type { ItemSnapshot } from "@/core/item/fields";
import { refuse, type Ask, type Refusal } from "./refusal";
import { stateOf, transitionBetween, transitionsFrom, type Requirement, type StateId, type Workflow } from "./workflow";

export interface MoveContext {
  workflow: Workflow;
  /** Columns on the project's boards that hold the item now, and those that would hold it; with their counts. */
  left: LimitedColumn[];
  entered: LimitedColumn[];
  /** Whether the person may break a firm limit with a reason. */
  mayOverrideLimits: boolean;
  nameOf: (personId: string) => string;
}

export interface AllowedMove {
  refused: false;
  /** Fields that the answers set. */
  changes: Partial<Pick<ItemSnapshot, "howToTest" | "assigneeId" | "reviewerId" | "estimate" | "outcome">>;
  reason: string | null;
  overridden: LimitBreak[];
}

export interface MoveRequest {
  from: StateId;
  to: StateId;
  answers: MoveAnswers;
  overrideReason?: string;
}

/**
 * Whether an item may make a move: the move exists, its requirements hold, no firm limit is broken without a reason.
 * All unmet requirements are asked for together, so a person answers once.
 */
export function decideMove(item: ItemSnapshot, request: MoveRequest, context: MoveContext): AllowedMove | Refusal {
  const { workflow } = context;
  const now = stateOf(workflow, item.stateId);
  if (item.stateId !== request.from)
    return refuse("moved meanwhile", `Somebody has moved it to ${now.name} meanwhile.`, "Look at it where it is now, then move it again if that is still right.");

  const target = workflow.states.find((s) => s.id === request.to);
  const transition = target && transitionBetween(workflow, item.stateId, target.id);
  if (!target || !transition) {
    const next = transitionsFrom(workflow, item.stateId).filter((t) => t.from !== null).map((t) => stateOf(workflow, t.to).name);
    return refuse(
      "no such move",
      `This workflow has no move from ${now.name} to ${target?.name ?? "there"}.`,
      next.length > 0 ? `From ${now.name} it can go to ${listWords(next)}.` : `Nothing leads out of ${now.name}.`,
    );
  }

  const after = answered(item, request.answers, transition.requirements);
  const unmet = transition.requirements.flatMap((requirement) => check(requirement, after, request.answers, item, context));
  if (unmet.length > 0) {
    const [first] = unmet;
    return { ...first, asks: unmet.flatMap((u) => u.asks).filter((ask, i, all) => all.findIndex((a) => a.field === ask.field) === i) };
  }

  const breaks = brokenFirmLimits(context.left, context.entered);
  const overrideReason = request.overrideReason?.trim();
  if (breaks.length > 0 && !(context.mayOverrideLimits && overrideReason)) return refuseLimit(breaks[0], context.mayOverrideLimits);

  return { refused: false, changes: changesOf(item, after), reason: request.answers.reason?.trim() || null, overridden: breaks };
}

type Answered = Pick<ItemSnapshot, "howToTest" | "assigneeId" | "reviewerId" | "estimate" | "outcome">;

/** The item's fields with the answers to what the transition asks; answers to anything else have no effect. */
function answered(item: ItemSnapshot, answers: MoveAnswers, requirements: readonly Requirement[]): Answered {
  const asked = new Set<string>(requirements.flatMap((r) => (r.kind === "filled" ? [r.field] : r.kind === "different people" ? [r.first] : [r.kind])));
  return {
    howToTest: (asked.has("howToTest") && answers.howToTest?.trim()) || item.howToTest,
    assigneeId: (asked.has("assigneeId") && answers.assigneeId) || item.assigneeId,
    reviewerId: (asked.has("reviewerId") && answers.reviewerId) || item.reviewerId,
    estimate: (asked.has("estimate") ? answers.estimate : undefined) ?? item.estimate,
    outcome: (asked.has("outcome") && answers.outcome) || null,
  };
}

function changesOf(item: ItemSnapshot, after: Answered): AllowedMove["changes"] {
  return Object.fromEntries(Object.entries(after).filter(([field, value]) => value !== item[field as keyof Answered]));
}

const FILLED_WORDS: Record<string, { sentence: string; help: string; label: string }> = {
  howToTest: {
    sentence: "It needs a note on how to test it.",
    help: "Write in a line or two how a tester can see that it works.",
    label: "How to test it",
  },
  assigneeId: { sentence: "It needs somebody who works on it.", help: "Choose an assignee.", label: "Assignee" },
  reviewerId: { sentence: "Review needs a reviewer.", help: "Choose somebody other than the assignee.", label: "Reviewer" },
  estimate: { sentence: "It needs an estimate.", help: "Give the team's estimate.", label: "Estimate" },
};

function check(requirement: Requirement, after: Answered, answers: MoveAnswers, item: ItemSnapshot, context: MoveContext): Refusal[] {
  switch (requirement.kind) {
    case "filled": {
      const value = after[requirement.field];
      if (value !== null && value !== "") return [];
      const words = FILLED_WORDS[requirement.field];
      const ask: Ask =
        requirement.field === "reviewerId"
          ? { field: "reviewerId", label: words.label, not: item.assigneeId }
          : { field: requirement.field, label: words.label };
      return [refuse("field missing", words.sentence, words.help, [ask])];
    }
    case "different people": {
      const first = after[requirement.first];
      if (first === null || first !== after[requirement.second]) return [];
      return [
        refuse("same person", "Review needs a second person.", `Ask someone other than ${context.nameOf(first)}.`, [
          { field: "reviewerId", label: "Reviewer", not: after[requirement.second] },
        ]),
      ];
    }
    case "reason":
      if (answers.reason?.trim()) return [];
      return [refuse("reason missing", "This move says why.", "Write a sentence that helps the next person.", [{ field: "reason", label: "Why?" }])];
    case "outcome":
      if (after.outcome !== null && requirement.allowed.includes(after.outcome)) return [];
      return [
        refuse("outcome missing", "Finishing names an outcome.", `Choose ${listWords(requirement.allowed, "or")}.`, [
          { field: "outcome", label: "Outcome", allowed: requirement.allowed },
        ]),
      ];
  }
}

/** The refusal for a firm limit; a lead is asked for a reason in place. */
export function refuseLimit(broken: LimitBreak, mayOverride: boolean): Refusal {
  const { columnName, limit, side } = broken;
  const items = (n: number) => (n === 1 ? "1 item" : `${n} items`);
  const sentence =
    side === "maximum" ? `${columnName} takes ${items(limit)} at most.` : `${columnName} keeps ${items(limit)} at least.`;
  const help =
    side === "maximum"
      ? "Finish or move on one of those first" + (mayOverride ? ", or give a reason why this one goes beyond the limit." : ", or ask a lead.")
      : "Pull another item into it first" + (mayOverride ? ", or give a reason why it may run short." : ", or ask a lead.");
  return refuse("limit", sentence, help, mayOverride ? [{ field: "overrideReason", label: "Why beyond the limit?" }] : []);
}

/** "a, b and c". */
export function listWords(words: readonly string[], conjunction: "and" | "or" = "or"): string {
  if (words.length < 2) return words.join("");
  return `${words.slice(0, -1).join(", ")} ${conjunction} ${words.at(-1)}`;
}
