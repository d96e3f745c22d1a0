import { z } from "zod";
import { cardLookSchema, USUAL_CARDS, type CardLook } from "@/core/board/card-look";
import { CHILDREN_SHOWN, type ChildrenShown } from "@/core/board/children";
import { lanesSchema, NO_LANES, type Lanes } from "@/core/board/lanes-by";
import { conditionSchema, EVERY_ITEM, type Condition } from "@/core/condition/condition";
import type { FactName } from "@/core/condition/facts";
import { isAmount } from "@/core/item/amount";
import { isCounted, MOST_COUNTED_FIELDS } from "@/core/item/list/listed";
import { ZOOMS, type Zoom } from "@/core/timeline/scale";
import { listQuerySchema, listedFact, type Sort } from "@/core/item/list/query";

/*
 * How items are looked at: which of them, arranged how, and what of each is shown. A look changes
 * nothing for anybody else; what a board counts and limits is its design, never a look.
 */

/** The ways to arrange items; each is one module on the screen. */
export const ARRANGEMENTS = ["board", "table", "timeline"] as const;
export type Arrangement = (typeof ARRANGEMENTS)[number];

/** A column of a table. */
export interface ShownField {
  fact: FactName;
  /** In pixels; null: as wide as its kind usually is. */
  width: number | null;
}

export interface Look {
  arrangement: Arrangement;
  /** Whose design, and with it whose scope, it is: the project's first board where none is named. */
  board: string | null;
  lanes: Lanes;
  cards: CardLook;
  /** How items under others are shown; null: as the board usually shows them. */
  children: ChildrenShown | null;
  /** What it is about: stays when a filter is cleared. */
  scope: Condition;
  filter: Condition;
  group: FactName | null;
  sort: readonly Sort[];
  fields: readonly ShownField[];
  /** The number that is added up beside every count. */
  sum: FactName | null;
  /** The fields whose values stand counted beside the items; none: nothing stands there. */
  counts: readonly FactName[];
  dense: boolean;
  /** How close a timeline is looked at. */
  zoom: Zoom;
}

export const MOST_FIELDS = 20;
export const NARROWEST = 48;
export const WIDEST = 800;

const USUAL_FIELDS: readonly FactName[] = [
  "stateId",
  "age",
  "assigneeId",
  "priority",
  "estimate",
  "dueOn",
];

export const PLAIN_LOOK: Look = {
  arrangement: "board",
  board: null,
  lanes: NO_LANES,
  cards: USUAL_CARDS,
  children: null,
  scope: EVERY_ITEM,
  filter: EVERY_ITEM,
  group: null,
  sort: [],
  fields: USUAL_FIELDS.map((fact) => ({ fact, width: null })),
  sum: "estimate",
  counts: [],
  dense: false,
  zoom: "quarter",
};

/** Facts that can be a column: the title always is one. */
export const isColumn = (fact: FactName): boolean => fact !== "title";

const eachOnce = (fields: readonly ShownField[]): boolean =>
  new Set(fields.map((field) => field.fact)).size === fields.length;

const query = listQuerySchema.shape;

/** The parts of a look from outside, each by itself. */
export const lookParts = {
  arrangement: z.enum(ARRANGEMENTS),
  board: z.string().min(1).max(64).nullable(),
  lanes: lanesSchema,
  cards: cardLookSchema,
  children: z.enum(CHILDREN_SHOWN).nullable(),
  scope: conditionSchema,
  filter: conditionSchema,
  group: query.group.unwrap(),
  sort: query.sort.unwrap().readonly(),
  fields: z
    .array(
      z.object({
        fact: listedFact(isColumn),
        width: z.number().int().min(NARROWEST).max(WIDEST).nullable(),
      }),
    )
    .max(MOST_FIELDS, `Use at most ${MOST_FIELDS} columns.`)
    .refine(eachOnce, "A column stands in a table once.")
    .readonly(),
  sum: listedFact(isAmount).nullable(),
  counts: z
    .array(listedFact(isCounted))
    .max(MOST_COUNTED_FIELDS, `Count the values of at most ${MOST_COUNTED_FIELDS} fields.`)
    .refine((facts) => new Set(facts).size === facts.length, "A field is counted once.")
    .readonly(),
  dense: z.boolean(),
  zoom: z.enum(ZOOMS),
} satisfies Record<keyof Look, z.ZodType>;

/** A whole look from outside. */
export const lookSchema = z.object(lookParts);

/** A look as it was stored: what it did not say then is as usual. */
export const storedLook = (stored: unknown): Look => {
  const given = z.record(z.string(), z.unknown()).catch({}).parse(stored);
  const known = Object.entries(lookParts).flatMap(([name, part]) => {
    const read = part.safeParse(given[name]);
    return read.success ? [[name, read.data]] : [];
  });
  return { ...PLAIN_LOOK, ...(Object.fromEntries(known) as Partial<Look>) };
};

export type LookPart = keyof Look;
export const LOOK_PARTS = Object.keys(lookParts) as LookPart[];

/** Whether a part of two looks says the same. */
export const sameIn = (part: LookPart, a: Look, b: Look): boolean =>
  JSON.stringify(a[part]) === JSON.stringify(b[part]);

/** Whether two looks say the same. */
export const sameLook = (a: Look, b: Look): boolean =>
  LOOK_PARTS.every((part) => sameIn(part, a, b));

/** The parts of a look that another page is read for. */
export const READ_ANEW: readonly LookPart[] = ["arrangement", "board"];

/**
 * What somebody looks at while the view that they began with is changed by somebody else: what they
 * changed themselves stays, the rest follows. So does not what another page would have to be read
 * for: nothing jumps away under them.
 * @param was the view as it was @param is the view as it is now @param shown what they look at
 */
export const followedLook = (was: Look, is: Look, shown: Look): Look => ({
  ...shown,
  ...Object.fromEntries(
    LOOK_PARTS.filter((part) => !READ_ANEW.includes(part) && sameIn(part, was, shown)).map(
      (part) => [part, is[part]],
    ),
  ),
});

/** Which items a look shows, without what its board shows of them. */
export const shownBy = ({ scope, filter }: Pick<Look, "scope" | "filter">): Condition => ({
  kind: "all",
  of: [scope, filter],
});
