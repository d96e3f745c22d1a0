import type { Vocabulary } from "@/core/condition/vocabulary";
import type { Dependency, ItemChange } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import type { OwnValue } from "@/core/item/own-field";
import type { Editors, ParametersOf, Shape } from "../parameter";

/** What is known around a move for what follows from it. */
export interface FollowUpContext {
  actorId: string | null;
  /** Who had the item before its present assignee; null when nobody had. */
  previousAssigneeId: string | null;
  /**
   * By team: the member with the fewest items in progress, and the one whose turn it is. Null for a
   * team without people.
   */
  leastLoaded: Record<string, string | null>;
  nextInTurn: Record<string, string | null>;
  newCommentId: () => string;
  /** What the item waits for and was not delivered. */
  waitsFor: readonly Dependency[];
  newBlockId: () => string;
}

export type ChangedField = Extract<ItemChange, { kind: "changed" }>["field"];

/** The item that follow-ups change, one after the other; what changes nothing gives no event. */
export interface ChangingItem {
  /** As it is by now. */
  readonly now: ItemSnapshot;
  set(field: ChangedField, value: unknown): void;
  setOwn(fieldId: string, value: OwnValue | null): void;
  comment(text: string): void;
  /** Only what is in progress is blocked, and by each other item once. */
  block(by: Dependency): void;
}

/** A kind of follow-up, with all that the product knows about it. */
export interface FollowUpKindOf<S extends Shape> {
  /** In the list of what can follow: "leave a comment". */
  title: string;
  parameters: S;
  /** What it leaves open when it is added. */
  begins: (vocabulary: Vocabulary) => ParametersOf<S>;
  editors: Editors<S>;
  /** As people read it after "then": "sets the priority to high". */
  words: (parameters: ParametersOf<S>, vocabulary: Vocabulary) => string;
  /**
   * What it changes on the item itself. Without it, it touches other items or people, or the place
   * in the order, which is for whoever stores the move.
   */
  change?: (parameters: ParametersOf<S>, item: ChangingItem, context: FollowUpContext) => void;
}

/** A kind of follow-up with the types of its parameters. */
export const followUpKind = <const S extends Shape>(of: FollowUpKindOf<S>) => of;
