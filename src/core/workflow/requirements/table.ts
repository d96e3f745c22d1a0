import type { Vocabulary } from "@/core/condition/vocabulary";
import { schemaOfKinds, type RuleOf, type Shape } from "../parameter";
import type { Refusal } from "../refusal";
import { accepted } from "./accepted";
import { approvals } from "./approvals";
import { changeMerged } from "./change-merged";
import { checklist } from "./checklist";
import { comment } from "./comment";
import { condition } from "./condition";
import { differentPeople } from "./different-people";
import { failingTest } from "./failing-test";
import { filled } from "./filled";
import type { RequirementContext, RequirementKindOf } from "./kind";
import { limitAhead } from "./limit-ahead";
import { noBlocker } from "./no-blocker";
import { notFrozen } from "./not-frozen";
import { outcome } from "./outcome";
import { reason } from "./reason";
import { subTasksFinished } from "./sub-tasks-finished";

/** Every kind of requirement, in the order in which it is offered; each stands in a file. */
const TABLE = {
  filled,
  "different people": differentPeople,
  condition,
  checklist,
  approvals,
  "sub-tasks finished": subTasksFinished,
  "no blocker": noBlocker,
  "change merged": changeMerged,
  "failing test": failingTest,
  accepted,
  "not frozen": notFrozen,
  comment,
  reason,
  outcome,
  "limit ahead": limitAhead,
};

export type RequirementKind = keyof typeof TABLE;

/** What a transition demands before it is allowed. */
export type Requirement = RuleOf<typeof TABLE>;

export const REQUIREMENT_KINDS = Object.keys(TABLE) as RequirementKind[];

/** What the product knows about a kind; its parameters are those of its requirements. */
export const requirementKindOf = (kind: RequirementKind) =>
  TABLE[kind] as unknown as RequirementKindOf<Shape>;

/** A requirement as it is stored. */
export const requirementSchema = schemaOfKinds(TABLE);

/** A requirement of a kind, as it begins. */
export const newRequirement = (kind: RequirementKind) =>
  ({ kind, ...requirementKindOf(kind).begins }) as Requirement;

/** What a transition demands, as people read it after the verb: "needs an estimate". */
export const requirementWords = ({ kind, ...parameters }: Requirement, vocabulary: Vocabulary) =>
  requirementKindOf(kind).words(parameters, vocabulary);

/**
 * Why a requirement does not hold, with what would satisfy it; null when it holds. Limits are
 * decided elsewhere.
 */
export const unmet = (
  { kind, ...parameters }: Requirement,
  context: RequirementContext,
): Refusal | null => requirementKindOf(kind).unmet(parameters, context);
