import { USUAL_CARDS } from "@/core/board/card-look";
import { NO_LANES } from "@/core/board/lanes-by";
import type { Condition } from "@/core/condition/condition";
import type { FactName } from "@/core/condition/facts";
import { PLAIN_LOOK, type Look } from "@/core/view/look";
import type { namedCondition, view } from "@/db/schema";
import type { DemoProject } from "./projects";

type Comparison = Extract<Condition, { kind: "compare" }>;

const compare = (fact: FactName, op: Comparison["op"], value: Comparison["value"]): Comparison => ({
  kind: "compare",
  fact,
  op,
  value,
});
const all = (...of: Condition[]): Condition => ({ kind: "all", of });

const IN_PROGRESS = compare("stateKind", "one of", ["waiting", "working"]);
const NOT_FINISHED = compare("stateKind", "is not", "finished");
const NO_TASKS = compare("typeId", "is not", "task");
const BUGS = compare("typeId", "is", "bug");

const table = (look: Partial<Look>): Look => ({ ...PLAIN_LOOK, arrangement: "table", ...look });
const columns = (...facts: FactName[]): Look["fields"] =>
  facts.map((fact) => ({ fact, width: null }));

type DemoView = Pick<typeof view.$inferInsert, "name" | "ownerId" | "shown" | "look" | "place">;

/** The ways of looking that the crew keeps. */
export function demoViews({ key }: DemoProject): DemoView[] {
  const ofProject = { ownerId: null, shown: true };
  const ofNoor: DemoView = {
    ownerId: "noor",
    shown: true,
    name: "Mine, the oldest first",
    place: null,
    look: table({
      scope: all(compare("assigneeId", "is", { who: "me" }), NOT_FINISHED),
      sort: [{ fact: "age", descending: true }],
      fields: columns("stateId", "age", "daysInState", "priority", "dueOn", "labels"),
    }),
  };
  // Nearly what the project has already.
  const ofTomas: DemoView = {
    ownerId: "tomas",
    shown: true,
    name: "Bugs by how long they wait",
    place: null,
    look: table({
      scope: all(BUGS, NOT_FINISHED),
      group: "severity",
      sort: [{ fact: "daysInState", descending: true }],
      fields: columns("stateId", "daysInState", "assigneeId"),
    }),
  };
  const whatPresses: DemoView = {
    ...ofProject,
    name: "What presses",
    place: 2,
    look: {
      ...PLAIN_LOOK,
      cards: {
        ...USUAL_CARDS,
        facts: [...USUAL_CARDS.facts, "priority", "daysInState"],
        more: ["zigzag", "promise left", "probably"],
        marks: [
          {
            word: "due soon",
            sign: "bell",
            tone: "look here",
            condition: all(NOT_FINISHED, compare("dueOn", "at most", { day: 21 })),
          },
          {
            word: "others wait for it",
            sign: "anchor",
            tone: "act now",
            condition: compare("waitedFor", "at least", 1),
          },
        ],
      },
      lanes: {
        ...NO_LANES,
        by: {
          kind: "conditions",
          of: [
            {
              name: "Due within three weeks",
              condition: all(NOT_FINISHED, compare("dueOn", "at most", { day: 21 })),
            },
            { name: "Blocked", condition: compare("blocked", "is", true) },
            {
              name: "Longer than expected",
              condition: all(IN_PROGRESS, compare("age", "more than", 11)),
            },
          ],
        },
      },
    },
  };
  return [
    ...(key === "TIX" ? [ofNoor, ofTomas] : []),
    ...(key === "TIX" ? [whatPresses] : []),
    {
      ...ofProject,
      name: "What comes when",
      place: null,
      look: { ...PLAIN_LOOK, arrangement: "timeline", scope: all(NOT_FINISHED, NO_TASKS) },
    },
    {
      ...ofProject,
      name: "What is on us now",
      place: 0,
      look: table({
        scope: all(IN_PROGRESS, NO_TASKS),
        group: "priority",
        sort: [
          { fact: "priority", descending: true },
          { fact: "age", descending: true },
        ],
        fields: columns(
          "stateId",
          "age",
          "assigneeId",
          "estimate",
          "dueOn",
          `own.shown date.${key.toLowerCase()}-goes-out`,
        ),
        counts: ["assigneeId", "labels"],
      }),
    },
    {
      ...ofProject,
      name: "Bugs that wait for us",
      place: 1,
      look: table({
        scope: all(BUGS, NOT_FINISHED),
        group: "severity",
        sort: [
          { fact: "severity", descending: true },
          { fact: "daysSinceCreated", descending: true },
        ],
        fields: columns("stateId", "daysSinceCreated", "assigneeId", "priority", "teamId"),
      }),
    },
    {
      ...ofProject,
      name: "Voyages and what they hold",
      place: null,
      look: table({
        scope: all(compare("level", "one of", ["2", "3"]), NOT_FINISHED),
        group: "level",
        fields: columns(
          "stateId",
          "children",
          "openChildren",
          `own.shown number.${key.toLowerCase()}-below`,
          "dueOn",
        ),
      }),
    },
    {
      ...ofProject,
      name: "What we promised",
      place: null,
      look: table({
        scope: all(NOT_FINISHED, compare("promise", "is set", null)),
        group: "promise",
        sort: [{ fact: "daysSinceCreated", descending: true }],
        fields: columns("stateId", "daysSinceCreated", "assigneeId", "severity", "teamId"),
      }),
    },
    {
      ...ofProject,
      name: "Who does what",
      place: null,
      look: {
        ...PLAIN_LOOK,
        board: `${key.toLowerCase()}-people`,
      },
    },
    {
      ownerId: "ines",
      shown: false,
      name: "Before the Thursday round",
      place: null,
      look: table({
        scope: all(NO_TASKS, IN_PROGRESS),
        filter: compare("daysInState", "more than", 3),
        group: "stateId",
        sort: [{ fact: "daysInState", descending: true }],
        fields: columns("daysInState", "age", "assigneeId", "reviewerId", "returns", "estimate"),
      }),
    },
  ];
}

/** Who opened which view when, so many days ago; what nobody opens is named nowhere. */
export const DEMO_OPENED: readonly { name: string; personId: string; daysAgo: number }[] = [
  { name: "What is on us now", personId: "ines", daysAgo: 0.1 },
  { name: "What is on us now", personId: "noor", daysAgo: 0.3 },
  { name: "What is on us now", personId: "ruth", daysAgo: 1 },
  { name: "What is on us now", personId: "ivo", daysAgo: 2 },
  { name: "Bugs that wait for us", personId: "tomas", daysAgo: 1 },
  { name: "Bugs that wait for us", personId: "ines", daysAgo: 4 },
  { name: "Mine, the oldest first", personId: "noor", daysAgo: 0.2 },
  { name: "Bugs by how long they wait", personId: "tomas", daysAgo: 76 },
];

type DemoCondition = Pick<typeof namedCondition.$inferInsert, "name" | "condition">;

/** What the crew says of items in a word or two. */
export const demoConditions = ({ expectation }: DemoProject): DemoCondition[] => [
  {
    name: "waits for us",
    condition: all(
      compare("stateKind", "is", "waiting"),
      compare("blocked", "is", false),
      NO_TASKS,
    ),
  },
  { name: "longer than expected", condition: compare("age", "more than", expectation.days) },
  {
    name: "about fog",
    condition: {
      kind: "any",
      of: [compare("title", "contains", "fog"), compare("description", "contains", "fog")],
    },
  },
];
