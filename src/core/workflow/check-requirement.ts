import { holds, type Asker } from "@/core/condition/evaluate";
import type { AskedItem } from "@/core/condition/facts";
import { conditionSentence } from "@/core/condition/sentence";
import type { Vocabulary } from "@/core/condition/vocabulary";
import type { MoveAnswers } from "@/core/item/command";
import { computedFields } from "@/core/item/compute-fields";
import type { ItemSnapshot } from "@/core/item/fields";
import { checksOf } from "@/core/item/outside";
import { fieldsOfType, type OwnField } from "@/core/item/own-field";
import { refuse, type Refusal } from "./refusal";
import { demandedOwnField, type DemandedItemField, type Requirement } from "./requirement";
import type { Policy, State } from "./state";

/**
 * What a requirement is held against: the item as it would be with the answers, and what is known
 * around it.
 */
export interface RequirementContext {
  /** The item as it stands, and with the answers filled in. */
  before: ItemSnapshot;
  after: ItemSnapshot;
  answers: MoveAnswers;
  from: State;
  to: State;
  /** Facts around the item; its snapshot is replaced by `after`. */
  around: Omit<AskedItem, "item">;
  asker: Asker;
  /** Teams of the people who approved. */
  teamsOf: (personId: string) => readonly string[];
  vocabulary: Vocabulary;
  nameOf: (personId: string) => string;
  teamName: (teamId: string) => string;
  ownFields: readonly OwnField[];
}

/**
 * The policies that a move must see ticked: on leaving where it is and on entering where it goes.
 */
export function policiesOf(from: State, to: State): Policy[] {
  return [...from.exitPolicies, ...to.entryPolicies];
}

const FILLED_WORDS: Record<DemandedItemField, { sentence: string; help: string; label: string }> = {
  description: {
    sentence: "It needs a description.",
    help: "Say what is to be done and how one sees that it is.",
    label: "Description",
  },
  howToTest: {
    sentence: "It needs a note on how to test it.",
    help: "Write in a line or two how a tester can see that it works.",
    label: "How to test it",
  },
  assigneeId: {
    sentence: "It needs somebody who works on it.",
    help: "Choose an assignee.",
    label: "Assignee",
  },
  reviewerId: {
    sentence: "Review needs a reviewer.",
    help: "Choose somebody other than the assignee.",
    label: "Reviewer",
  },
  teamId: { sentence: "It needs a team.", help: "Choose the team that takes it.", label: "Team" },
  estimate: {
    sentence: "It needs an estimate.",
    help: "Give the team's estimate.",
    label: "Estimate",
  },
  severity: {
    sentence: "It needs a severity.",
    help: "Say how bad it is for those who meet it.",
    label: "Severity",
  },
  place: {
    sentence: "It needs to say where it happens.",
    help: "Name the quay, the boat or the page.",
    label: "Where",
  },
  sprintId: {
    sentence: "It needs a sprint.",
    help: "Choose the sprint it is done in.",
    label: "Sprint",
  },
  releaseId: {
    sentence: "It needs a release.",
    help: "Choose the release it goes out with.",
    label: "Release",
  },
  dueOn: { sentence: "It needs a due date.", help: "Say by when it is wanted.", label: "Due date" },
};

/**
 * Why a requirement does not hold, with what would satisfy it; null when it holds. Limits are
 * decided elsewhere.
 */
export function unmet(requirement: Requirement, context: RequirementContext): Refusal | null {
  const { before, after, answers } = context;
  switch (requirement.kind) {
    case "filled": {
      const ownId = demandedOwnField(requirement.field);
      if (ownId !== null) return unfilledOwn(ownId, context);
      const field = requirement.field as DemandedItemField;
      const value = after[field];
      if (value !== null && value !== "") return null;
      const { sentence, help, label } = FILLED_WORDS[field];
      return refuse("field missing", sentence, help, [
        { field, label, ...(requirement.field === "reviewerId" ? { not: before.assigneeId } : {}) },
      ]);
    }
    case "different people": {
      const first = after[requirement.first];
      if (first === null || first !== after[requirement.second]) return null;
      return refuse(
        "same person",
        "Review needs a second person.",
        `Ask someone other than ${context.nameOf(first)}.`,
        [{ field: "reviewerId", label: "Reviewer", not: after[requirement.second] }],
      );
    }
    case "condition": {
      const asked = {
        ...context.around,
        item: after,
        computed: computedFields(context.ownFields, after),
      };
      if (holds(requirement.condition, asked, context.asker)) return null;
      return refuse(
        "condition",
        "This move is for other items.",
        `It is made when ${conditionSentence(requirement.condition, context.vocabulary)}.`,
      );
    }
    case "checklist": {
      const ticked = new Set([...before.ticks.map((t) => t.policyId), ...(answers.ticks ?? [])]);
      const open = policiesOf(context.from, context.to).filter((p) => !ticked.has(p.id));
      if (open.length === 0) return null;
      return refuse(
        "checklist",
        open.length === 1
          ? "One point of the agreement is open."
          : `${open.length} points of the agreement are open.`,
        "Tick what is true; what is not true is still to be done.",
        [{ field: "ticks", label: "What is true", policies: open }],
      );
    }
    case "approvals":
      return unmetApprovals(requirement, context);
    case "sub-tasks finished": {
      const open = context.around.openChildren;
      return open === 0
        ? null
        : refuse(
            "sub-tasks open",
            open === 1 ? "One sub-task is not finished." : `${open} sub-tasks are not finished.`,
            "Finish them first, or close what is not wanted any more.",
          );
    }
    case "no blocker": {
      const [first] = before.openBlockers;
      return first
        ? refuse(
            "blocked",
            `It is blocked: ${first.cause}.`,
            "Lift the blocker first, when it is gone.",
          )
        : null;
    }
    case "change merged":
      return unmerged(requirement.checks, before);
    case "comment":
      return answers.comment?.trim()
        ? null
        : refuse(
            "comment missing",
            "This move leaves a comment.",
            "Write what the next person should know.",
            [{ field: "comment", label: "Comment" }],
          );
    case "reason":
      return answers.reason?.trim()
        ? null
        : refuse(
            "reason missing",
            "This move says why.",
            "Write a sentence that helps the next person.",
            [{ field: "reason", label: "Why?" }],
          );
    case "outcome":
      if (after.outcome !== null && requirement.allowed.includes(after.outcome)) return null;
      return refuse(
        "outcome missing",
        "Finishing names an outcome.",
        `Choose ${listWords(requirement.allowed, "or")}.`,
        [{ field: "outcome", label: "Outcome", allowed: requirement.allowed }],
      );
    case "limit ahead":
      return null;
  }
}

/** A field that the item's type does not have is not asked for: nobody could fill it. */
function unfilledOwn(id: string, { after, ownFields }: RequirementContext): Refusal | null {
  const field = fieldsOfType(ownFields, after.typeId).find((f) => f.id === id);
  if (!field || after.own[id] !== undefined) return null;
  return refuse(
    "field missing",
    `It needs “${field.name}”.`,
    field.unit ? `Say how many ${field.unit}.` : "Fill it in.",
    [{ field: `own.${id}`, label: field.name, own: field }],
  );
}

function unmerged(wantsChecks: boolean, { outside }: ItemSnapshot): Refusal | null {
  const open = outside.changes.filter((c) => c.status === "open");
  if (open.length > 0)
    return refuse(
      "change open",
      open.length === 1
        ? `Change ${open[0].id} is not merged yet.`
        : `${open.length} of its changes are not merged yet.`,
      "Merge it first, or give it up where the code is kept.",
    );
  if (!outside.changes.some((c) => c.status === "merged"))
    return refuse(
      "change open",
      "No merged change belongs to it.",
      "Name this item in the change that does the work, and merge it.",
    );
  if (!wantsChecks) return null;
  const checks = checksOf(outside.changes);
  if (checks === "passed") return null;
  return checks === "failed"
    ? refuse(
        "change open",
        "A check of its changes failed.",
        "Mend what failed; the move is free once the checks pass.",
      )
    : refuse(
        "change open",
        "The checks of its changes have not passed yet.",
        "Wait for them, or start them where the code is kept.",
      );
}

function unmetApprovals(
  { count, role, teamId }: Extract<Requirement, { kind: "approvals" }>,
  context: RequirementContext,
): Refusal | null {
  const { before } = context;
  // Nobody approves their own work.
  const counted = before.approvals.filter(
    (a) =>
      a.byId !== before.assigneeId &&
      (role === null || a.role === role || (role === "member" && a.role === "lead")) &&
      (teamId === null || context.teamsOf(a.byId).includes(teamId)),
  );
  const missing = count - new Set(counted.map((a) => a.byId)).size;
  if (missing <= 0) return null;
  const from = [
    role === "lead" ? (missing === 1 ? "a lead" : "leads") : missing === 1 ? "somebody" : "people",
    teamId ? `of ${context.teamName(teamId)}` : "",
  ]
    .filter(Boolean)
    .join(" ");
  return refuse(
    "approvals",
    missing === 1 ? "It needs one more approval." : `It needs ${missing} more approvals.`,
    `Ask ${from} other than ${before.assigneeId ? context.nameOf(before.assigneeId) : "the assignee"}: they press Approve on the item.`,
  );
}

/** "a, b and c". */
export function listWords(words: readonly string[], conjunction: "and" | "or" = "or"): string {
  if (words.length < 2) return words.join("");
  return `${words.slice(0, -1).join(", ")} ${conjunction} ${words.at(-1)}`;
}
