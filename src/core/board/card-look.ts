import { z } from "zod";
import { conditionSchema, factsIn, type Condition } from "@/core/condition/condition";
import type { FactName } from "@/core/condition/facts";
import { isListed } from "@/core/item/list/listed";
import { listedFact } from "@/core/item/list/query";
import { cardSays } from "./lane";

/*
 * What cards say of items, as a view wants it. That an item is blocked, ready, or has stood too long
 * where it is, every card says.
 */

/** Small: the least, everywhere. Usual: what waits is small, what is worked on is whole. */
export const DENSITIES = ["small", "usual", "whole"] as const;
export type Density = (typeof DENSITIES)[number];

export const SIGNS = ["anchor", "bell", "buoy", "flag", "sail", "waves"] as const;
export type Sign = (typeof SIGNS)[number];

export const TONES = ["look here", "act now", "good", "rest"] as const;
export type Tone = (typeof TONES)[number];

/** A sign with a word that cards carry of which a condition is true; the first that is true wins. */
export interface CardMark {
  word: string;
  sign: Sign;
  tone: Tone;
  condition: Condition;
}

/** What cards can say besides, which no condition asks for. */
export const CARD_MORE = ["zigzag", "promise left", "parent", "probably"] as const;
export type CardMore = (typeof CARD_MORE)[number];

export const CARD_MORE_WORDS: Record<CardMore, string> = {
  zigzag: "small zigzag",
  "promise left": "time left of the promise",
  parent: "what it stands under",
  probably: "when it is probably finished",
};

export interface CardLook {
  facts: readonly FactName[];
  more: readonly CardMore[];
  /** From so many days on a card says how long it stands in its state, where it says that. */
  stayFrom: number;
  density: Density;
  marks: readonly CardMark[];
}

/** Facts that cards say in a way of their own; all others they say by name. */
export const USUAL_FACTS: readonly FactName[] = [
  "estimate",
  "assigneeId",
  "age",
  "classOfService",
  "origin",
  "returns",
  "children",
  "waitsFor",
  "waitedFor",
];

export const USUAL_CARDS: CardLook = {
  facts: USUAL_FACTS,
  more: [],
  stayFrom: 2,
  density: "usual",
  marks: [],
};

/** What every card says anyway, or where it stands. */
const SAID_ANYWAY: readonly FactName[] = ["title", "typeId", "blocked", "ready", "openChildren"];

/** Facts that a card can say. */
export const isOnCard = (fact: FactName): boolean => isListed(fact) && !SAID_ANYWAY.includes(fact);

export const MOST_ON_CARD = 16;
export const MOST_MARKS = 8;
/** So many characters the word of a mark has at most. */
export const LONGEST_WORD = 24;

const mark = z.object({
  word: z
    .string()
    .trim()
    .min(1, "A mark needs a word.")
    .max(LONGEST_WORD, `Use at most ${LONGEST_WORD} characters.`),
  sign: z.enum(SIGNS),
  tone: z.enum(TONES),
  condition: conditionSchema,
});

export const cardLookSchema = z.object({
  facts: z
    .array(listedFact(isOnCard))
    .max(MOST_ON_CARD, `A card says at most ${MOST_ON_CARD} things.`)
    .refine((facts) => new Set(facts).size === facts.length, "A card says a thing once.")
    .readonly(),
  more: z
    .array(z.enum(CARD_MORE))
    .refine((more) => new Set(more).size === more.length, "A card says a thing once.")
    .readonly()
    .default([]),
  stayFrom: z.number().int().min(0).max(365).default(2),
  density: z.enum(DENSITIES).default("usual"),
  marks: z.array(mark).max(MOST_MARKS, `Use at most ${MOST_MARKS} marks.`).readonly().default([]),
});

/** The facts that cards of a look ask for. */
export const cardLookFacts = ({ facts, marks }: CardLook): FactName[] => [
  ...facts,
  ...marks.flatMap(({ condition }) => [...factsIn(condition)]),
];

/** Facts of items around an item, which the board brings with its cards. */
const BROUGHT: readonly FactName[] = ["children", "waitsFor", "waitedFor"];

/** The facts that the server has to be asked for, as no card says them. */
export const factsAskedFor = ({ facts }: Pick<CardLook, "facts">): FactName[] =>
  facts.filter((fact) => !cardSays(fact) && !BROUGHT.includes(fact));

/** Whether the server has to be asked for what cards say. */
export const asksForCards = (look: CardLook): boolean =>
  look.marks.length > 0 || look.more.length > 0 || factsAskedFor(look).length > 0;
