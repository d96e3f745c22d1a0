import {
  LOOK_PARTS,
  lookParts,
  PLAIN_LOOK,
  sameIn,
  type Look,
  type LookPart,
  type ShownField,
} from "./look";
import { lanesByField, NO_LANES, type Lanes } from "@/core/board/lanes-by";
import { isFactName } from "@/core/condition/facts";
import type { Sort } from "@/core/item/list/query";

/*
 * A look in an address: the view it began as, and what differs from it. What is long stands under a
 * short id instead.
 */

/** What stands behind the question mark, each name once. */
export type Search = Readonly<Record<string, string>>;

/** An address that is longer than so many characters is kept under a short id. */
export const LONGEST_ADDRESS = 1_500;

/** The name of each part in an address. */
export const PART_NAMES: Record<LookPart, string> = {
  arrangement: "as",
  board: "board",
  lanes: "lanes",
  cards: "cards",
  children: "children",
  scope: "about",
  filter: "only",
  group: "groups",
  sort: "sort",
  fields: "columns",
  sum: "sum",
  counts: "counts",
  dense: "rows",
  zoom: "zoom",
};

const NOTHING = "none";
const orNothing = (text: string | null): string => text ?? NOTHING;

/** Lanes by a field by its name, where nothing else is said of them; everything else whole. */
const writeLanes = (lanes: Lanes): string => {
  const { by } = lanes;
  const name = by.kind === "field" ? by.fact : by.kind === "conditions" ? null : by.kind;
  return name !== null && JSON.stringify({ ...NO_LANES, by }) === JSON.stringify(lanes)
    ? name
    : JSON.stringify(lanes);
};

/** @throws SyntaxError where it is neither */
function lanesIn(text: string): unknown {
  if (text.startsWith("{")) return JSON.parse(text) as unknown;
  if (text === "parent") return { ...NO_LANES, by: { kind: "parent" } };
  return isFactName(text) ? lanesByField(text) : text;
}

const WRITE: { [P in LookPart]: (value: Look[P]) => string } = {
  arrangement: String,
  board: orNothing,
  lanes: writeLanes,
  cards: JSON.stringify,
  children: orNothing,
  scope: JSON.stringify,
  filter: JSON.stringify,
  group: orNothing,
  sort: (sort) =>
    sort.length === 0
      ? NOTHING
      : sort.map(({ fact, descending }) => `${descending ? "-" : ""}${fact}`).join("~"),
  fields: (fields) =>
    fields.length === 0
      ? NOTHING
      : fields.map(({ fact, width }) => (width === null ? fact : `${fact}*${width}`)).join("~"),
  sum: orNothing,
  counts: (counts) => (counts.length === 0 ? NOTHING : counts.join("~")),
  dense: (dense) => (dense ? "narrow" : "roomy"),
  zoom: String,
};

/** What a look does otherwise than the one it began as, for an address. */
export function writeLook(kept: Look, shown: Look): Record<string, string> {
  const written = <P extends LookPart>(part: P) => WRITE[part](shown[part] as never);
  return Object.fromEntries(
    LOOK_PARTS.filter((part) => !sameIn(part, kept, shown)).map((part) => [
      PART_NAMES[part],
      written(part),
    ]),
  );
}

const sortIn = (text: string): Sort[] =>
  text === NOTHING
    ? []
    : text.split("~").map((one) => ({
        fact: one.replace(/^-/, "") as Sort["fact"],
        descending: one.startsWith("-"),
      }));

const fieldsIn = (text: string): ShownField[] =>
  text === NOTHING
    ? []
    : text.split("~").map((one) => {
        const [, fact, width] = /^(.*?)(?:\*(\d+))?$/.exec(one)!;
        return {
          fact: fact as ShownField["fact"],
          width: width === undefined ? null : Number(width),
        };
      });

const factIn = (text: string) => (text === NOTHING ? null : text);

/** @throws SyntaxError where a condition is no JSON */
const READ: Record<LookPart, (text: string) => unknown> = {
  arrangement: String,
  board: factIn,
  lanes: lanesIn,
  cards: (text) => JSON.parse(text) as unknown,
  children: factIn,
  scope: (text) => JSON.parse(text) as unknown,
  filter: (text) => JSON.parse(text) as unknown,
  group: factIn,
  sort: sortIn,
  fields: fieldsIn,
  sum: factIn,
  counts: (text) => (text === NOTHING ? [] : text.split("~")),
  dense: (text) => text === "narrow",
  zoom: String,
};

/** What each part is called where an address says something of it that cannot be read. */
const PART_WORDS: Record<LookPart, string> = {
  arrangement: "how it is arranged",
  board: "which board it is",
  lanes: "the lanes",
  cards: "what cards say",
  children: "how items under others are shown",
  scope: "what it is about",
  filter: "the filter",
  group: "the groups",
  sort: "the order",
  fields: "the columns",
  sum: "what is added up",
  counts: "whose values are counted",
  dense: "how high rows are",
  zoom: "how close it is looked at",
};

/** What an address without a view begins as: a board, or a table of its items, as it says itself. */
export function plainLook(search: Search): Look {
  const { arrangement, board } = PART_NAMES;
  const named = { [arrangement]: search[arrangement] ?? "", [board]: search[board] ?? "" };
  return readLook(PLAIN_LOOK, named).look;
}

/** What an address says of the look that it begins as, where that is no view. */
export const writePlain = ({ arrangement, board }: Look): Record<string, string> =>
  writeLook(PLAIN_LOOK, { ...PLAIN_LOOK, arrangement, board });

/** A look from an address, and what of the address could not be read, in words. */
export function readLook(kept: Look, search: Search): { look: Look; unread: string[] } {
  let look = kept;
  const unread: string[] = [];
  for (const part of LOOK_PARTS) {
    const text = search[PART_NAMES[part]];
    if (text === undefined || text === "") continue;
    const read = parsed(part, text);
    if (read === null) unread.push(PART_WORDS[part]);
    else look = { ...look, ...read };
  }
  return { look, unread };
}

function parsed(part: LookPart, text: string): Partial<Look> | null {
  try {
    const read = lookParts[part].safeParse(READ[part](text));
    return read.success ? { [part]: read.data } : null;
  } catch {
    return null;
  }
}
