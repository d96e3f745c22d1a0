import type { Vocabulary } from "@/core/condition/vocabulary";
import { schemaOfKinds, type RuleOf, type Shape } from "../parameter";
import { assign } from "./assign";
import { blockByDependencies } from "./block-by-dependencies";
import { comment } from "./comment";
import { createSubTasks } from "./create-sub-tasks";
import type { FollowUpKindOf } from "./kind";
import { finishDuplicates, putOnTop, reopenDuplicates } from "./plain";
import { setField } from "./set-field";
import { setOutcome } from "./set-outcome";
import { tell } from "./tell";

/** Every kind of follow-up, in the order in which it is offered. */
const TABLE = {
  "set field": setField,
  assign,
  "set outcome": setOutcome,
  comment,
  "create sub-tasks": createSubTasks,
  "block by dependencies": blockByDependencies,
  "finish duplicates": finishDuplicates,
  "reopen duplicates": reopenDuplicates,
  tell,
  "put on top": putOnTop,
};

export type FollowUpKind = keyof typeof TABLE;

/** What a transition does afterwards, as part of the same change. */
export type FollowUp = RuleOf<typeof TABLE>;

export const FOLLOW_UP_KINDS = Object.keys(TABLE) as FollowUpKind[];

/** What the product knows about a kind; its parameters are those of its follow-ups. */
export const followUpKindOf = (kind: FollowUpKind) =>
  TABLE[kind] as unknown as FollowUpKindOf<Shape>;

/** A follow-up as it is stored. */
export const followUpSchema = schemaOfKinds(TABLE);

/** A follow-up of a kind, as it begins. */
export const newFollowUp = (kind: FollowUpKind, vocabulary: Vocabulary) =>
  ({ kind, ...followUpKindOf(kind).begins(vocabulary) }) as FollowUp;

/** What a transition does afterwards: "sets the priority to high". */
export const followUpWords = ({ kind, ...parameters }: FollowUp, vocabulary: Vocabulary) =>
  followUpKindOf(kind).words(parameters, vocabulary);
