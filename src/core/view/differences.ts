import { CARD_MORE_WORDS } from "@/core/board/card-look";
import { lanesWords } from "@/core/board/lanes-by";
import { factLabel, type Vocabulary } from "@/core/condition/vocabulary";
import { filterParts, samePart } from "./filter";
import { partText, type NamedCondition } from "./filter-words";
import { sameIn, type Look, type LookPart } from "./look";

/** What a project calls things that looks name. */
export interface LookNames {
  vocabulary: Vocabulary;
  boards: readonly { id: string; name: string }[];
  named: readonly NamedCondition[];
}

/** What a look does otherwise than the one it began as, in words; nothing where it does nothing. */
export function differences(kept: Look, shown: Look, names: LookNames): string[] {
  const parts = Object.keys(WORDS) as (keyof typeof WORDS)[];
  return parts.flatMap((part) =>
    sameIn(part, kept, shown) ? [] : WORDS[part](kept, shown, names),
  );
}

type Telling = (kept: Look, shown: Look, names: LookNames) => string[];

const label = (fact: Parameters<typeof factLabel>[0], { vocabulary }: LookNames) =>
  factLabel(fact, vocabulary);

/** Conditions that were added to a filter, and taken out of it. */
const conditions =
  (part: "scope" | "filter"): Telling =>
  (kept, shown, { vocabulary, named }) => {
    const [before, after] = [filterParts(kept[part]), filterParts(shown[part])];
    const without = (all: typeof before, others: typeof before) =>
      all.filter((one) => !others.some((other) => samePart(one, other)));
    const told = (words: string) => (one: (typeof before)[number]) =>
      `${words} “${partText(one, vocabulary, named)}”`;
    return [
      ...without(after, before).map(told("only")),
      ...without(before, after).map(told("without only")),
    ];
  };

const fields: Telling = (kept, shown, names) => {
  const of = (look: Look) => look.fields.map((field) => field.fact);
  const added = of(shown).filter((fact) => !of(kept).includes(fact));
  const gone = of(kept).filter((fact) => !of(shown).includes(fact));
  if (added.length + gone.length === 0)
    return of(kept).join() === of(shown).join()
      ? ["columns of other widths"]
      : ["columns in another order"];
  return [
    ...added.map((fact) => `with ${label(fact, names)}`),
    ...gone.map((fact) => `without ${label(fact, names)}`),
  ];
};

/** What cards say of some things more, and what no more. */
const moreOrLess = <T>(before: readonly T[], after: readonly T[], words: (one: T) => string) => [
  ...after.filter((one) => !before.includes(one)).map((one) => `cards with ${words(one)}`),
  ...before.filter((one) => !after.includes(one)).map((one) => `cards without ${words(one)}`),
];

/** What cards say more, or no more; how large they are, and what is marked on them. */
const cards: Telling = ({ cards: before }, { cards: after }, names) => {
  const said = [
    ...moreOrLess(before.facts, after.facts, (fact) => label(fact, names)),
    ...moreOrLess(before.more, after.more, (one) => CARD_MORE_WORDS[one]),
    ...(after.density === before.density ? [] : [`${after.density} cards`]),
    ...(JSON.stringify(after.marks) === JSON.stringify(before.marks) ? [] : ["other marks"]),
  ];
  return said.length > 0 ? said : ["cards that say it otherwise"];
};

const sorted: Telling = (_, { sort }, names) =>
  sort.length === 0
    ? ["in the order of the ranks"]
    : [
        `sorted by ${sort
          .map(({ fact, descending }) => `${label(fact, names)}${descending ? ", falling" : ""}`)
          .join(", then ")}`,
      ];

const WORDS: Record<LookPart, Telling> = {
  filter: conditions("filter"),
  scope: conditions("scope"),
  arrangement: (_, shown) => [`as a ${shown.arrangement}`],
  board: (_, shown, { boards }) => [
    `on ${boards.find((board) => board.id === shown.board)?.name ?? "another board"}`,
  ],
  lanes: (_, { lanes }, { vocabulary }) => [
    lanes.by.kind === "none" ? "without lanes" : `in lanes by ${lanesWords(lanes, vocabulary)}`,
  ],
  children: (_, { children }) => [children === null ? "children as usual" : `children ${children}`],
  cards,
  group: (_, { group }, names) => [
    group === null ? "not in groups" : `in groups by ${label(group, names)}`,
  ],
  sort: sorted,
  fields,
  sum: (_, { sum }, names) => [
    sum === null ? "adding nothing up" : `adding up ${label(sum, names)}`,
  ],
  counts: (_, { counts }, names) => [
    counts.length === 0
      ? "without counted values"
      : `counting by ${counts.map((fact) => label(fact, names)).join(", ")}`,
  ],
  zoom: (_, { zoom }) => [zoom === "fit" ? "all of it at once" : `by the ${zoom}`],
  dense: (_, { dense }) => [dense ? "in narrow rows" : "in roomy rows"],
};
