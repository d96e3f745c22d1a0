import fc from "fast-check";
import { columnMeaning } from "@/core/board/place-meaning";
import type { Condition } from "@/core/condition/condition";
import { holds, type Asker } from "@/core/condition/evaluate";
import { NOTHING_AROUND } from "@/core/condition/facts";
import { linesIn, MOST_LINES } from "@/core/item/adding/lines";
import { meantBy } from "@/core/item/adding/meant";
import { planAdding, type Place } from "@/core/item/adding/plan";
import { groupMeaning } from "@/core/item/list/group";
import { Subject, workflow } from "./setup/make";
import { VOCABULARY } from "./setup/conditions";
import { choosing } from "@/core/view/filter";
import { optionsOf } from "@/core/condition/vocabulary";

const ASKER: Asker = {
  personId: "noor",
  teamIds: ["ticketing"],
  now: Date.parse("2026-03-04T12:00:00Z"),
  zone: "Europe/London",
  sprints: { current: "sprint-9", "last three": ["s6", "s7", "s8"] },
};

const is = (fact: string, value: unknown, op = "is"): Condition =>
  ({ kind: "compare", fact, op, value }) as Condition;
const all = (...of: Condition[]): Condition => ({ kind: "all", of });
const meant = (condition: Condition) => meantBy(condition, ASKER);

describe("what a place among items means for one that is added", () => {
  test.each<[string, Condition, object]>([
    ["a person by a word", is("assigneeId", { who: "me" }), { assigneeId: "noor" }],
    ["a sprint by a word", is("sprintId", { sprint: "current" }), { sprintId: "sprint-9" }],
    [
      "of several values the first",
      is("priority", ["high", "urgent"], "one of"),
      { priority: "high" },
    ],
    ["a day from today", is("dueOn", { day: 2 }, "at most"), { dueOn: "2026-03-06" }],
    ["nothing", is("assigneeId", null, "is empty"), { assigneeId: null }],
    ["a number that is reached", is("estimate", 3, "at least"), { estimate: 3 }],
    [
      "labels together",
      all(is("labels", "fog", "contains"), is("labels", "quay", "contains")),
      { labels: ["fog", "quay"] },
    ],
    [
      "of alternatives the first that can be said",
      { kind: "any", of: [is("blocked", true), is("teamId", "ticketing")] },
      { teamId: "ticketing" },
    ],
    [
      "what was said first",
      all(is("priority", "low"), is("priority", "high")),
      { priority: "low" },
    ],
  ])("%s", (_, condition, fields) => expect(meant(condition).fields).toEqual(fields));

  it("says nothing of what lies in the past, is ruled out, compared, or not possible", () => {
    for (const condition of [
      is("age", 3, "more than"),
      is("stateId", "Building"),
      is("title", "fog", "contains"),
      is("priority", "low", "is not"),
      { kind: "not", of: is("priority", "low") } as Condition,
      is("assigneeId", { fact: "reviewerId" }),
      is("estimate", -5),
      is("sprintId", { sprint: "next" }),
    ])
      expect(meant(condition)).toEqual({ fields: {}, own: {} });
  });

  it("says the project's own fields by their ids", () => {
    expect(meant(is("own.number.f-value", 7)).own).toEqual({ "f-value": 7 });
    expect(meant(is("own.computed.f-cost", 7)).own).toEqual({});
  });

  it("makes what is chosen of any field hold", () => {
    const facts = ["assigneeId", "teamId", "priority", "classOfService", "releaseId"] as const;
    const anyChoice = fc.constantFrom(...facts).chain((fact) =>
      fc.record({
        fact: fc.constant(fact),
        values: fc.uniqueArray(
          fc.constantFrom(...optionsOf(fact, VOCABULARY).map(({ id }) => id)),
          { minLength: 1 },
        ),
      }),
    );
    const item = new Subject().item!;
    fc.assert(
      fc.property(anyChoice, (chosen) => {
        const condition = choosing(chosen)!;
        const asked = { ...NOTHING_AROUND, item: { ...item, ...meant(condition).fields } };
        expect(holds(condition, asked, ASKER)).toBe(true);
      }),
    );
  });
});

describe("a column and a group as conditions", () => {
  it("hold for what stands in them", () => {
    expect(columnMeaning("label", { value: "fog" })).toEqual(is("labels", "fog", "contains"));
    expect(columnMeaning("sprint", { value: null })).toEqual(is("sprintId", null, "is empty"));
    expect(columnMeaning("state", {})).toEqual(all());
    expect(groupMeaning("estimate", "3")).toEqual(is("estimate", 3));
    expect(groupMeaning("blocked", "true")).toEqual(is("blocked", true));
    expect(groupMeaning("teamId", null)).toEqual(is("teamId", null, "is empty"));
    expect(groupMeaning("dueOn", "past")).toBeNull();
  });
});

describe("what is added at a place", () => {
  const bug = { id: "bug", name: "Bug", level: 1, workflowId: workflow.id, removedAt: null };
  const place = (change: Partial<Place> = {}): Place => ({
    parts: [],
    states: [],
    types: [bug as Place["types"][number]],
    workflows: [workflow],
    ownFields: [],
    typeId: null,
    underTypeId: null,
    ...change,
  });
  const planned = (change: Partial<Place> = {}) => planAdding(place(change), ASKER)!;

  it("has under another the types of the levels below, the nearest first", () => {
    const level = (id: string, at: number, removedAt: number | null = null) =>
      ({ id, name: id, level: at, workflowId: workflow.id, removedAt }) as Place["types"][number];
    const types = [
      level("task", 0),
      level("bug", 1),
      level("voyage", 2),
      level("old story", 1, 5),
      level("story", 1),
    ];
    const under = (underTypeId: string) => planned({ types, underTypeId }).types.map((t) => t.id);
    expect(under("voyage")).toEqual(["bug", "story", "task"]);
    expect(under("bug")).toEqual(["task"]);
    expect(planAdding(place({ types, underTypeId: "task" }), ASKER)).toBeNull();
  });

  it("goes to its column by a move from where items begin", () => {
    const { into, reached, stateName } = planned({ states: ["Ready"] });
    expect([into?.to, reached, stateName]).toEqual(["Ready", true, "Ready"]);
    expect(planned().into).toBeNull();
  });

  it("stays where items begin, and says so, where no move leads there", () => {
    const { into, reached, stateName } = planned({ states: ["Testing"] });
    expect([into, reached, stateName]).toEqual([null, false, "Backlog"]);
  });

  it("tells which parts will not hold, but leaves texts to who writes the title", () => {
    const parts = [is("priority", "high"), is("age", 3, "more than"), is("title", "x", "contains")];
    const { fields, unmet } = planned({ parts });
    expect(fields).toEqual({ priority: "high" });
    expect(unmet).toEqual([parts[1]]);
    expect(planned({ parts: [is("stateId", "Ready")], states: ["Ready"] }).unmet).toEqual([]);
  });

  it("is of the type that was chosen, that is asked for, or that can stand there", () => {
    const story = { ...bug, id: "story", workflowId: "other" } as Place["types"][number];
    const types = [story, bug as Place["types"][number]];
    expect(planned({ types, states: ["Ready"] }).types.map(({ id }) => id)).toEqual(["bug"]);
    const workflows = [workflow, { ...workflow, id: "other" }];
    expect(planned({ types, workflows }).typeId).toBe("story");
    expect(planned({ types, workflows, parts: [is("typeId", "bug")] }).typeId).toBe("bug");
    expect(planned({ types, workflows, typeId: "bug" }).typeId).toBe("bug");
    expect(planAdding(place({ types: [] }), ASKER)).toBeNull();
  });
});

describe("lines that were pasted", () => {
  it("are a title each, without the signs of a list", () => {
    expect(linesIn("- one\r\n\n2. two\n[x] three\n* [ ] four\n  five ").titles).toEqual([
      "one",
      "two",
      "three",
      "four",
      "five",
    ]);
    expect(linesIn("3 gates\n2026 timetable").titles).toEqual(["3 gates", "2026 timetable"]);
  });

  it("are refused where they are too many or too long, with the number of the line", () => {
    expect(linesIn("a\n".repeat(MOST_LINES)).problem).toBeNull();
    expect(linesIn("a\n".repeat(5_000)).problem).toContain("5,000 lines");
    expect(linesIn(`a\n${"b".repeat(10_000)}`).problem).toContain("Line 2 has 10,000 characters");
  });
});
