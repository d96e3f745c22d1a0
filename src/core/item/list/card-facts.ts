import { z } from "zod";
import { cardLookSchema } from "@/core/board/card-look";
import type { FactValue } from "@/core/condition/facts";
import type { SmallStretch } from "@/core/flow/small-zigzag";
import type { PromiseLeft } from "@/core/item/promise-left";
import type { Probably } from "@/core/plan/probably";
import { namedItems } from "./query";

/** What cards of a board say that they do not have: facts of the server's, and marks. */
export const cardFactsBody = z.object({
  /** Whose items; null: all of the project that its boards show. */
  board: z.string().max(64).nullable().default(null),
  cards: cardLookSchema.pick({ facts: true, marks: true, more: true }),
  /** Only of which of these; null: of all. */
  of: namedItems,
});
export type CardFactsAsked = z.output<typeof cardFactsBody>;

/** What one card says that it does not have. */
export interface CardTold {
  /** In the order of the facts that are asked for. */
  values: FactValue[];
  /** The place of its mark among the others; null: it has none. */
  mark: number | null;
  /** Its line, while it is in progress. */
  zigzag?: SmallStretch[];
  /** What is left of what was promised about it. */
  left?: PromiseLeft;
  /** What it stands under. */
  parent?: { key: string; title: string };
  /** When it is probably finished, while it is open. */
  probably?: Probably;
}

/** By the id of the item; what says nothing and has no mark is left out. */
export type CardsTold = Readonly<Record<string, CardTold>>;
