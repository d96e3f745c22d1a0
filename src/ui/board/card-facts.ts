import { type CardLook, type Density } from "@/core/board/card-look";
import { type FactName } from "@/core/condition/facts";
import { type Vocabulary } from "@/core/condition/vocabulary";
import type { Paces } from "@/core/flow/pace";
import { type OwnField } from "@/core/item/own-field";
import type { State } from "@/core/workflow/state";

/** What all cards of a board are drawn with. */
export interface CardFacts {
  zone: string;
  now: number;
  /** What ages are held against, by the project. */
  paces: Paces;
  nameOf: Map<string, string>;
  /** Of teams and sprints. */
  groupName: Map<string, string>;
  typeName: Map<string, string>;
  /** Types of large pieces: what others took says nothing of their age. */
  largeTypes: ReadonlySet<string>;
  /** Fields of the project's own; those that are wanted on cards are shown. */
  ownFields: readonly OwnField[];
  states: ReadonlyMap<string, State>;
  /** Where the columns are not the steps of the process, cards say which they are in. */
  saysState: boolean;
  /** What the view wants of cards. */
  look: CardLook;
  /** How large they are here. */
  density: Density;
  shown: ReadonlySet<FactName>;
  /** The facts that the server says, in their order. */
  asked: readonly FactName[];
  vocabulary: Vocabulary;
}
