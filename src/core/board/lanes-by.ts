import { z } from "zod";
import { conditionSchema, factsIn, type Condition } from "@/core/condition/condition";
import type { FactName } from "@/core/condition/facts";
import { factLabel, type Vocabulary } from "@/core/condition/vocabulary";
import { isCounted } from "@/core/item/list/listed";
import { listedFact } from "@/core/item/list/query";

/** A lane by a condition: what it is called, and which items travel in it. */
export interface LaneCondition {
  name: string;
  condition: Condition;
}

/**
 * What lanes are made by: nothing but the expedite lane, the values of a field, the items that
 * others stand under, or conditions of which the first that is true decides.
 */
export type LanesBy =
  | { kind: "none" }
  | { kind: "field"; fact: FactName }
  | { kind: "parent" }
  | { kind: "conditions"; of: LaneCondition[] };

/** How a board is cut into lanes. */
export interface Lanes {
  by: LanesBy;
  /** Of lanes by people: only the people of this team have one, all others share the rest. */
  teamId: string | null;
  /** Where what is in none of them stands. */
  rest: "below" | "above";
  /** Whether lanes that hold nothing are shown too. */
  empty: boolean;
}

export const NO_LANES: Lanes = {
  by: { kind: "none" },
  teamId: null,
  rest: "below",
  empty: false,
};

/** Lanes by the values of a field, otherwise as usual. */
export const lanesByField = (fact: FactName): Lanes => ({
  ...NO_LANES,
  by: { kind: "field", fact },
});

/** So many lanes by conditions a board has at most. */
export const MOST_LANE_CONDITIONS = 12;

const laneCondition = z.object({
  name: z.string().trim().min(1, "A lane needs a name.").max(60, "Use at most 60 characters."),
  condition: conditionSchema,
});

const by = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("none") }),
  z.object({ kind: z.literal("field"), fact: listedFact(isCounted) }),
  z.object({ kind: z.literal("parent") }),
  z.object({
    kind: z.literal("conditions"),
    of: z
      .array(laneCondition)
      .min(1, "Lanes by conditions need one at least.")
      .max(MOST_LANE_CONDITIONS, `Use at most ${MOST_LANE_CONDITIONS} lanes.`),
  }),
]);

/** What lanes were once said to be by, in a word. */
const WORDS: Record<string, Lanes> = {
  none: NO_LANES,
  assignee: lanesByField("assigneeId"),
  "class of service": lanesByField("classOfService"),
};

export const lanesSchema: z.ZodType<Lanes> = z.preprocess(
  (given) => (typeof given === "string" ? (WORDS[given] ?? given) : given),
  z.object({
    by,
    teamId: z.string().min(1).max(64).nullable().default(null),
    rest: z.enum(["below", "above"]).default("below"),
    empty: z.boolean().default(false),
  }),
) as z.ZodType<Lanes>;

/** The facts that lanes ask for. */
export const lanesFacts = ({ by: made }: Pick<Lanes, "by">): FactName[] =>
  made.kind === "field"
    ? [made.fact]
    : made.kind === "conditions"
      ? made.of.flatMap(({ condition }) => [...factsIn(condition)])
      : [];

/** Whether lanes are by who has an item, so that they can be those of one team. */
export const areByPeople = ({ by: made }: Lanes): boolean =>
  made.kind === "field" && (made.fact === "assigneeId" || made.fact === "reviewerId");

/** What lanes are by, in a few words: "assignee of Ticketing", "what they are under", "3 conditions". */
export function lanesWords({ by: made, teamId }: Lanes, vocabulary: Vocabulary): string {
  switch (made.kind) {
    case "none":
      return "expedite first";
    case "parent":
      return "what they are under";
    case "conditions":
      return made.of.map(({ name }) => name).join(", then ");
    case "field": {
      const team = vocabulary.teams.find(({ id }) => id === teamId);
      return `${factLabel(made.fact, vocabulary)}${team ? ` of ${team.name}` : ""}`;
    }
  }
}
