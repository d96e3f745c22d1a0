import type { Comparison, ConditionValue, Operator } from "@/core/condition/condition";
import { holds, type Asker } from "@/core/condition/evaluate";
import {
  factOf,
  isFactName,
  NOTHING_AROUND,
  ownFactName,
  ownFieldOf,
  type AskedItem,
  type FactName,
  type FactValue,
} from "@/core/condition/facts";
import type { ItemSnapshot } from "@/core/item/fields";
import { OWN_FIELDS } from "./setup/conditions";
import { created, DAY, plainItem } from "./setup/make";

const change = (id: string, status: "open" | "merged") => ({
  id,
  status,
  url: null,
  checks: "passed" as const,
  review: null,
});
const full: ItemSnapshot = {
  ...plainItem,
  title: "Gate refuses the night boat",
  place: "",
  estimate: 5,
  assigneeId: "noor",
  reviewerId: null,
  teamId: "quayside",
  sprintId: "sp1",
  dueOn: "1970-01-11",
  labels: ["gate", "night", "gate"],
  returns: 2,
  enteredStateAt: 4 * DAY,
  // Three days and a bit, away, and since late on day 8 again, which in London is day 9 already.
  clock: [
    { from: 2.5 * DAY, to: 5.2 * DAY },
    { from: 8.99 * DAY, to: null },
  ],
  createdAt: DAY,
  blockedSince: 9 * DAY,
  openBlockers: [{ id: "b", cause: "storm", waitingFor: null, since: 9 * DAY }],
  outside: {
    ...plainItem.outside,
    changes: [change("41", "open"), change("42", "merged"), change("43", "merged")],
    testResult: "passed",
    deployedTo: ["harbour"],
  } as ItemSnapshot["outside"],
  own: {
    "f-note": "ropes",
    "f-value": 400,
    "f-sailing": "1970-01-12",
    "f-route": "isle",
    "f-quays": ["q1"],
    "f-skipper": "ivo",
    "f-storm": true,
  },
};
const asked: AskedItem = {
  item: full,
  everIn: ["s1", "s2"],
  links: ["duplicates"],
  children: 3,
  openChildren: 1,
  waitsFor: 2,
  waitedFor: 3,
  followers: ["noor", "ivo"],
  votes: 4,
  promise: "at risk",
  level: 2,
  shown: { "f-below": 8, "f-ends": "1970-01-14", "f-above": "Storm desk" },
  computed: { "f-cost": 800 },
};
const bare: AskedItem = { ...NOTHING_AROUND, item: plainItem };
const AT = { now: 10 * DAY, zone: "Europe/London", personId: "noor" };

test.each<[FactName, FactValue, FactValue]>([
  ["title", "Gate refuses the night boat", created.title],
  ["place", null, null],
  ["estimate", 5, null],
  ["blocked", true, false],
  ["daysInState", 6, 10],
  ["daysSinceCreated", 9, 10],
  ["daysBlocked", 1, null],
  ["age", 6, null],
  ["returns", 2, 0],
  ["everIn", ["s1", "s2"], []],
  ["links", ["duplicates"], []],
  ["children", 3, 0],
  ["openChildren", 1, 0],
  ["waitsFor", 2, 0],
  ["waitedFor", 3, 0],
  ["followers", 2, 0],
  ["followed", true, false],
  ["votes", 4, 0],
  ["promise", "at risk", null],
  ["level", "2", null],
  ["projectId", plainItem.projectId, plainItem.projectId],
  ["openChanges", 1, 0],
  ["mergedChanges", 2, 0],
  ["testResult", "passed", null],
  ["deployedTo", ["harbour"], []],
  ["own.text.f-note", "ropes", null],
  ["own.number.f-value", 400, null],
  ["own.many of.f-quays", ["q1"], []],
  ["own.yes or no.f-storm", true, false],
  ["own.person.f-skipper", "ivo", null],
  ["own.computed.f-cost", 800, null],
  ["own.shown number.f-below", 8, null],
  ["own.shown date.f-ends", "1970-01-14", null],
  ["own.shown text.f-above", "Storm desk", null],
])("%s is %j; where nothing is said, %j", (fact, value, without) => {
  expect(factOf(fact).of(asked, AT)).toEqual(value);
  expect(factOf(fact).of(bare, AT)).toEqual(without);
});

test.each(
  OWN_FIELDS.map((field) => {
    const kinds = {
      text: ["text", true, null],
      number: ["number", true, null],
      date: ["date", true, null],
      "one of": ["choice", true, { own: field.id }],
      "many of": ["set", false, { own: field.id }],
      person: ["choice", true, "people"],
      "yes or no": ["flag", false, null],
      link: ["text", true, null],
      computed: ["number", true, null],
      "shown number": ["number", true, null],
      "shown date": ["date", true, null],
      "shown text": ["text", true, null],
    } as const;
    return [ownFactName(field), field, kinds[field.kind]] as const;
  }),
)("%s is a fact of its kind", (name, { id, kind }, [asks, nullable, options]) => {
  expect(factOf(name)).toMatchObject({ kind: asks, nullable, options, text: id });
  expect(ownFieldOf(name)).toEqual({ kind, id });
  expect(isFactName(name)).toBe(true);
});

test("no other name is a fact", () => {
  for (const name of ["", "titel", "own.", "own.colour.f-note", "own.text.", "toString"]) {
    expect(isFactName(name)).toBe(false);
    expect(() => factOf(name as FactName)).toThrow(`there is no fact ${name}`);
  }
  expect(ownFieldOf("title")).toBeNull();
});

const NOOR: Asker = {
  personId: "noor",
  teamIds: ["ticketing", "quayside"],
  now: 10 * DAY,
  zone: "UTC",
  sprints: { current: "sp1", next: "sp2", previous: null, "last three": ["sp0", "sp1"] },
};

/** Whether it holds for the full item, and for one that says nothing. */
test.each<[FactName, Operator, ConditionValue | null, boolean, boolean]>([
  ["estimate", "is set", null, true, false],
  ["estimate", "is empty", null, false, true],
  ["estimate", "is", 5, true, false],
  ["estimate", "is", 4, false, false],
  ["estimate", "is not", 5, false, true],
  ["estimate", "at least", 5, true, false],
  ["estimate", "at least", 6, false, false],
  ["estimate", "at most", 5, true, false],
  ["estimate", "at most", 4, false, false],
  ["estimate", "more than", 4, true, false],
  ["estimate", "more than", 5, false, false],
  ["estimate", "less than", 6, true, false],
  ["estimate", "less than", 5, false, false],
  ["dueOn", "is", "1970-01-11", true, false],
  ["dueOn", "is", { day: 0 }, true, false],
  ["dueOn", "less than", { day: 1 }, true, false],
  ["dueOn", "more than", { day: -1 }, true, false],
  ["dueOn", "at most", { day: -1 }, false, false],
  ["dueOn", "less than", { fact: "own.date.f-sailing" }, true, false],
  ["teamId", "one of", ["quayside"], true, false],
  ["teamId", "one of", { who: "my teams" }, true, false],
  ["teamId", "none of", ["quayside"], false, true],
  ["teamId", "none of", ["ticketing"], true, true],
  ["assigneeId", "is", { who: "me" }, true, false],
  ["sprintId", "is", { sprint: "current" }, true, false],
  ["sprintId", "is", { sprint: "next" }, false, false],
  ["sprintId", "is", { sprint: "previous" }, false, false],
  ["sprintId", "is", { sprint: "after next" }, false, false],
  ["sprintId", "one of", { sprint: "last three" }, true, false],
  ["sprintId", "none of", { sprint: "last three" }, false, true],
  ["labels", "contains", "gate", true, false],
  ["labels", "lacks", "gate", false, true],
  ["labels", "counts at least", 2, true, false],
  ["labels", "counts at least", 3, false, false],
  ["labels", "counts at most", 2, true, true],
  ["labels", "counts at most", 1, false, true],
  ["title", "counts at least", 27, true, true],
  ["title", "counts at least", 28, false, true],
  ["title", "contains", "NIGHT", true, false],
  ["title", "contains exactly", "NIGHT", false, false],
  ["title", "contains exactly", "night", true, false],
  ["title", "lacks", "night", false, true],
  ["title", "starts with", "Gate", true, false],
  ["title", "ends with", "Gate", false, false],
  ["title", "ends with", "boat", true, false],
  ["title", "is", "Gate refuses the night boat", true, false],
  ["title", "is", "Gate", false, false],
  ["title", "is not", "Gate", true, true],
  ["blocked", "is", true, true, false],
  ["blocked", "is", false, false, true],
  ["reviewerId", "is", { fact: "assigneeId" }, false, true],
  ["reviewerId", "is not", { fact: "assigneeId" }, true, false],
])("%s %s %j: %s, and where nothing is said %s", (fact, op, value, forFull, forBare) => {
  const condition: Comparison = { kind: "compare", fact, op, value };
  expect(holds(condition, asked, NOOR)).toBe(forFull);
  expect(holds(condition, bare, NOOR)).toBe(forBare);
});

test("without a person nobody is me, without sprints no sprint is the current one", () => {
  const nobody: Asker = { personId: null, teamIds: [], now: 10 * DAY, zone: "UTC" };
  const of = (fact: FactName, value: ConditionValue): Comparison => ({
    kind: "compare",
    fact,
    op: "is",
    value,
  });
  expect(holds(of("assigneeId", { who: "me" }), asked, nobody)).toBe(false);
  expect(holds(of("sprintId", { sprint: "current" }), asked, nobody)).toBe(false);
});

test("a day begins where the project is", () => {
  const late = { ...NOOR, now: 10 * DAY + 23 * 3_600_000 };
  const today: Comparison = { kind: "compare", fact: "dueOn", op: "is", value: { day: 0 } };
  expect(holds(today, asked, late)).toBe(true);
  expect(holds(today, asked, { ...late, zone: "Asia/Tokyo" })).toBe(false);
});
