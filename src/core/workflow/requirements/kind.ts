import type { Asker } from "@/core/condition/evaluate";
import type { AskedItem } from "@/core/condition/facts";
import type { Vocabulary } from "@/core/condition/vocabulary";
import type { MoveAnswers } from "@/core/item/command";
import type { ItemSnapshot } from "@/core/item/fields";
import type { OwnField } from "@/core/item/own-field";
import type { Accepted } from "@/core/ship/acceptance/enough";
import type { FrozenEnvironment } from "@/core/ship/environment";
import type { KnownTest } from "@/core/ship/testing/known-test";
import type { Editors, ParametersOf, Shape } from "../parameter";
import type { Refusal } from "../refusal";
import type { State } from "../state";

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
  /** Environments that are frozen now. */
  frozen?: readonly FrozenEnvironment[];
  /** Who approved its changes at the code host. */
  reviews?: readonly HostApproval[];
  /** What is known of its tests. */
  tests?: readonly KnownTest[];
  /** To how many it was shown, and how many accept it. */
  acceptance?: Accepted;
}

/** An approval of a change at the code host, by somebody of the project. */
export interface HostApproval {
  byId: string;
  role: "lead" | "member";
  /** Whether they had looked at what the change ends with now. */
  ofHead: boolean;
}

/** A kind of requirement, with all that the product knows about it. */
export interface RequirementKindOf<S extends Shape> {
  /** In the list of what can be demanded: "a field is filled". */
  title: string;
  /** Of a move that it would have refused: "a field was empty". */
  refused: string;
  parameters: S;
  /** What it leaves open when it is added. */
  begins: ParametersOf<S>;
  editors: Editors<S>;
  /** As people read it after the verb: "needs an estimate". */
  words: (parameters: ParametersOf<S>, vocabulary: Vocabulary) => string;
  /** Why it does not hold, with what would satisfy it; null when it holds. */
  unmet: (parameters: ParametersOf<S>, context: RequirementContext) => Refusal | null;
}

/** A kind of requirement with the types of its parameters. */
export const requirementKind = <const S extends Shape>(of: RequirementKindOf<S>) => of;
