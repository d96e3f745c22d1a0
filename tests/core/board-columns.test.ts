import fc from "fast-check";
import { cardOf, type Card } from "@/core/board/card";
import { columnWords, ladder, partOf, type Column } from "@/core/board/column";
import {
  changeFor,
  standsIn,
  valueColumns,
  valueOf,
  type ColumnValues,
  type ValueField,
} from "@/core/board/columns-by";
import { astrayOf } from "@/core/board/astray";
import { followedWorkflows, uncoveredStates } from "@/core/board/followed";
import { ageTrack } from "@/core/board/age-track";
import { columnsAside } from "@/core/board/columns-aside";
import { realityOf } from "@/core/board/reality";
import { proposeColumns } from "@/core/board/propose-columns";
import { showWorkflow, widenedWords } from "@/core/board/show-workflow";
import { PRIORITIES } from "@/core/item/fields";
import { STATE_KINDS, type State, type StateKind } from "@/core/workflow/state";
import type { Workflow } from "@/core/workflow/workflow";
import { aged, Subject, workflow } from "./setup/make";

const card = (change: Partial<Card> = {}): Card => ({
  ...cardOf(new Subject().item!, "TIX"),
  ...change,
});

const named = (...names: string[]) => names.map((name) => ({ id: name.toLowerCase(), name }));
const VALUES: ColumnValues = {
  people: named("Noor", "Ivo", "Ruth"),
  teams: named("Quayside", "Platform"),
  sprints: named("S1", "S2"),
  releases: named("R1"),
  parents: named("TIX-1 Above", "TIX-2 Alone"),
};
const titles = (by: ValueField, cards: Card[]) =>
  valueColumns(by, VALUES, cards).map((c) => c.stage);

describe("columns of a field's values", () => {
  test("teams, sprints and releases are there in their order, those without one in front", () => {
    expect(titles("team", [])).toEqual(["No team", "Quayside", "Platform"]);
    expect(titles("sprint", [])).toEqual(["No sprint", "S1", "S2"]);
    expect(titles("release", [])).toEqual(["No release", "R1"]);
  });

  test("priorities stand from the highest down, and every item has one", () => {
    expect(titles("priority", [])).toEqual([...PRIORITIES].reverse());
  });

  test("people who have something stand before those who have nothing, else in their order", () => {
    expect(titles("assignee", [card({ assigneeId: "ruth" })])).toEqual([
      "Nobody yet",
      "Ruth",
      "Noor",
      "Ivo",
    ]);
  });

  test("items above others are there where they have one here", () => {
    expect(titles("parent", [card({ parentId: "tix-2 alone" })])).toEqual([
      "Under nothing",
      "TIX-2 Alone",
    ]);
  });

  test("labels are those in use, in alphabetical order; the first of an item counts", () => {
    const cards = [card({ labels: ["quay", "app"] }), card({ labels: ["boat"] }), card()];
    expect(titles("label", cards)).toEqual(["No label", "boat", "quay"]);
  });

  test("what is gone stays in sight while something has it", () => {
    expect(titles("assignee", [card({ assigneeId: "gone" })])).toContain("A former member");
    expect(titles("sprint", [card({ sprintId: "gone" })])).toEqual([
      "No sprint",
      "S1",
      "S2",
      "A former sprint",
    ]);
  });

  test("each has an id of its own, a place, and says whether it waits", () => {
    const columns = valueColumns("team", VALUES, []);
    expect(columns.map((c) => [c.id, c.position, c.part, c.value])).toEqual([
      ["team ", 0, "waiting", null],
      ["team quayside", 1, "working", "quayside"],
      ["team platform", 2, "working", "platform"],
    ]);
    for (const c of columns)
      expect(c).toMatchObject({
        name: "",
        stateIds: [],
      });
  });

  const FIELDS: [ValueField, Partial<Card>, string][] = [
    ["assignee", { assigneeId: "x" }, "x"],
    ["team", { teamId: "x" }, "x"],
    ["sprint", { sprintId: "x" }, "x"],
    ["release", { releaseId: "x" }, "x"],
    ["priority", { priority: "high" }, "high"],
    ["parent", { parentId: "x" }, "x"],
    ["label", { labels: ["x", "y"] }, "x"],
    ["part", { parts: ["Tickets", "Refunds"] }, "Tickets"],
  ];

  test.each(FIELDS)("the value of an item by %s", (by, change, value) => {
    expect(valueOf(by, card(change))).toBe(value);
  });

  test("an item without labels has no value", () => expect(valueOf("label", card())).toBeNull());

  test.each([
    ["assignee", "noor", { assigneeId: "noor" }],
    ["assignee", null, { assigneeId: null }],
    ["team", "quayside", { teamId: "quayside" }],
    ["sprint", "s1", { sprintId: "s1" }],
    ["release", "r1", { releaseId: "r1" }],
    ["priority", "low", { priority: "low" }],
    ["label", null, { labels: [] }],
    ["part", "Tickets", { parts: ["Tickets"] }],
    ["parent", "p", null],
  ] as const)("a drop into %s %s changes %j", (by, value, change) => {
    expect(changeFor(by, value, { labels: ["old"], parts: [] })).toEqual(change);
  });

  test("after a drop an item stands in the column it was dropped into, and in no other", () => {
    const fields = FIELDS.map(([by]) => by).filter((by) => by !== "parent");
    fc.assert(
      fc.property(
        fc.constantFrom(...fields),
        fc.nat(5),
        fc.uniqueArray(fc.constantFrom("app", "boat", "quay"), { maxLength: 3 }),
        (by, at, labels) => {
          const before = card({ labels, teamId: "quayside", assigneeId: "ivo" });
          const columns = valueColumns(by, VALUES, [before]);
          const target = columns[at % columns.length];
          const after = { ...before, ...changeFor(by, target.value ?? null, before) } as Card;
          const board = { columnsBy: by, places: {} };
          expect(columns.filter((c) => standsIn(board, c, after))).toEqual([target]);
        },
      ),
    );
  });

  test("a label that an item has already comes first, once, and the others stay", () => {
    expect(changeFor("label", "b", { labels: ["a", "b", "c"], parts: [] })).toEqual({
      labels: ["b", "c"],
    });
  });
});

describe("where an item stands", () => {
  const [column] = valueColumns("team", VALUES, []);

  test("by states: in the column that shows its state", () => {
    const board = { columnsBy: "state", places: {} } as const;
    const shows = { ...column, stateIds: ["Ready", "Building"] };
    expect(standsIn(board, shows, card({ stateId: "Building" }))).toBe(true);
    expect(standsIn(board, shows, card({ stateId: "Live" }))).toBe(false);
  });

  test("on a free board: where it was put, whatever its state", () => {
    const board = { columnsBy: "free", places: { i: { columnId: "l", rank: "a" } } } as const;
    expect(standsIn(board, { ...column, id: "l" }, card({ id: "i" }))).toBe(true);
    expect(standsIn(board, { ...column, id: "m" }, card({ id: "i" }))).toBe(false);
    expect(standsIn(board, { ...column, id: "l" }, card({ id: "j" }))).toBe(false);
  });
});

describe("a card", () => {
  test("says whether it is told how to test, and whether it was withdrawn", () => {
    const item = new Subject().item!;
    expect(cardOf(item, "TIX")).toMatchObject({
      key: "TIX-1",
      hasHowToTest: false,
      withdrawn: false,
    });
    const told = { ...item, howToTest: "Scan it twice.", withdrawnAt: 5 };
    expect(cardOf(told, "TIX")).toMatchObject({ hasHowToTest: true, withdrawn: true });
  });
});

const stateOf = (name: string, kind: StateKind, stage: string | null): State => ({
  ...workflow.states[0],
  id: name,
  name,
  kind,
  stage,
  position: 0,
});
const flowOf = (...states: State[]): Workflow => ({
  ...workflow,
  states: states.map((s, position) => ({ ...s, position })),
  transitions: [],
});

describe("columns proposed for a workflow", () => {
  const MAIN = flowOf(
    stateOf("New", "unstarted", null),
    stateOf("Coding", "working", "Build"),
    stateOf("Waits", "waiting", "Review"),
    stateOf("Reviewing", "working", "Review"),
    stateOf("Test", "working", null),
    stateOf("Live", "finished", null),
    stateOf("Closed", "finished", null),
  );

  test("one a part of a stage, in process order; nothing unstarted; the first finished state", () => {
    expect(proposeColumns([MAIN])).toEqual([
      { stage: "Build", name: "at work", part: "working", stateIds: ["Coding"] },
      { stage: "Review", name: "waiting", part: "waiting", stateIds: ["Waits"] },
      { stage: "Review", name: "at work", part: "working", stateIds: ["Reviewing"] },
      { stage: "Test", name: "", part: "working", stateIds: ["Test"] },
      { stage: "Live", name: "", part: "finished", stateIds: ["Live"] },
    ]);
  });

  test("the same stage and part of another workflow share a column; all finishes share one", () => {
    const other = flowOf(
      stateOf("Second look", "working", "Review"),
      stateOf("Build", "waiting", "Build"),
      stateOf("Done", "finished", null),
    );
    const columns = proposeColumns([MAIN, other]);
    expect(columns.map((c) => [c.stage, c.part, c.stateIds])).toEqual([
      // The waiting part of a stage stands before its working part, whichever came first.
      ["Build", "waiting", ["Build"]],
      ["Build", "working", ["Coding"]],
      ["Review", "waiting", ["Waits"]],
      ["Review", "working", ["Reviewing", "Second look"]],
      ["Test", "working", ["Test"]],
      ["Live", "finished", ["Live", "Done"]],
    ]);
    // A part that is called as its stage needs no second name.
    expect(columns[0].name).toBe("");
  });

  test("no workflow, no column", () => expect(proposeColumns([])).toEqual([]));

  test("whatever the states: each in progress is shown once, and nothing is uncovered", () => {
    const anyState = fc.record({
      kind: fc.constantFrom(...STATE_KINDS),
      stage: fc.option(fc.constantFrom("Build", "Review"), { nil: null }),
    });
    fc.assert(
      fc.property(fc.array(anyState, { minLength: 1, maxLength: 9 }), (states) => {
        const flow = flowOf(...states.map((s, i) => stateOf(`s${i}`, s.kind, s.stage)));
        const columns = proposeColumns([flow]);
        const shown = columns.flatMap((c) => c.stateIds);
        expect(new Set(shown).size).toBe(shown.length);
        const inProgress = flow.states.filter((s) => /waiting|working/.test(s.kind));
        for (const { id } of inProgress) expect(shown).toContain(id);
        expect(
          uncoveredStates({ workflows: [flow], columns, shownElsewhere: [], types: [] }),
        ).toEqual([]);
      }),
    );
  });
});

describe("a board that shows a workflow more", () => {
  const shown = (stage: string, part: Column["part"], ...stateIds: string[]) => ({
    id: `column ${stage} ${part}`,
    stage,
    name: "",
    part,
    stateIds,
  });
  const BOARD = [
    shown("Build", "working", "x-build"),
    shown("Review", "waiting", "x-wait"),
    shown("Review", "working", "x-review"),
    shown("Done", "finished", "x-done"),
  ];
  const lift = flowOf(
    stateOf("Asked", "unstarted", null),
    stateOf("Waits for a part", "waiting", null),
    stateOf("Fitting", "working", "Build"),
    stateOf("Looking over", "working", "Review"),
    stateOf("Second look", "working", "Review"),
    stateOf("Runs", "finished", null),
    stateOf("Given up", "finished", null),
  );
  const asText = (columns: ReturnType<typeof showWorkflow>) =>
    columns.map((c) => `${c.id === null ? "new " : ""}${c.stage}: ${c.stateIds.join(", ")}`);

  test("shares the columns of its stages, and makes others in their places", () => {
    const columns = showWorkflow(BOARD, lift);
    expect(asText(columns)).toEqual([
      "new Waits for a part: Waits for a part",
      "Build: x-build, Fitting",
      "Review: x-wait",
      "Review: x-review, Looking over",
      // Its own step, although it is the same stage: two steps of one workflow are told apart.
      "new Review: Second look",
      "Done: x-done, Runs",
    ]);
    expect(widenedWords(columns, lift)).toEqual([
      "Waits for a part: a new column",
      "Fitting: in the column Build",
      "Looking over: in the column Review",
      "Second look: a new column",
      "Runs: in the column Done",
    ]);
    expect(uncoveredStates({ workflows: [lift], columns, shownElsewhere: [], types: [] })).toEqual(
      [],
    );
    expect(
      showWorkflow(
        columns.map((c, i) => ({ ...c, id: `${i}` })),
        lift,
      ).flatMap((c) => c.added),
    ).toEqual([]);
  });

  test("adds only what it is told, and one way to end", () => {
    expect(asText(showWorkflow(BOARD, lift, ["Second look"]))[2]).toBe(
      "Review: x-review, Second look",
    );
    const ended = showWorkflow([shown("Done", "finished", "Given up")], lift, ["Runs"]);
    expect(ended.flatMap((c) => c.added)).toEqual([]);
  });

  test("an empty board gets all of it in order", () => {
    expect(asText(showWorkflow([], lift))).toEqual([
      "new Waits for a part: Waits for a part",
      "new Build: Fitting",
      "new Review: Looking over",
      "new Review: Second look",
      "new Runs: Runs",
    ]);
  });
});

describe("what a board follows", () => {
  const a = flowOf(
    stateOf("a0", "unstarted", null),
    stateOf("a1", "working", null),
    stateOf("a2", "waiting", null),
  );
  const b = { ...flowOf(stateOf("b1", "working", null)), id: "b" };

  const showing = (stateIds: string[], shownElsewhere: string[]) => ({
    workflows: [a, b],
    columns: stateIds.map((id) => ({ stateIds: [id] })),
    shownElsewhere,
    types: [a, b].map((w) => ({ workflowId: w.id, level: 1 })),
  });

  test.each([
    ["a column covers a state", ["a1"], ["b1"], ["a"]],
    ["columns cover both", ["a0", "b1"], ["b1"], ["a", "b"]],
    ["another board covers both", [], ["a1", "b1"], []],
    ["no board covers the other one", ["a1"], [], ["a", "b"]],
  ])("workflows where %s", (_, shown, elsewhere, followed) => {
    const found = followedWorkflows(showing(shown, elsewhere));
    expect(found).toEqual(followed.map((name) => ({ a, b })[name]));
  });

  test.each([
    ["of a followed workflow", ["a1"], ["b1"], ["a2"]],
    ["none", ["a1", "a2"], ["b1"], []],
    ["of one that another board shows: none", ["a1", "a2"], ["b1", "a2"], []],
    ["of one that no board shows", ["a1", "a2"], [], ["b1"]],
  ])("states in progress that no column covers: %s", (_, shown, elsewhere, states) => {
    expect(uncoveredStates(showing(shown, elsewhere)).map((s) => s.id)).toEqual(states);
  });

  test("of a workflow that only tasks follow nothing is missing", () => {
    const tasks = { ...showing(["a1", "a2"], []), types: [{ workflowId: "b", level: 0 }] };
    expect(followedWorkflows(tasks)).toEqual([a]);
    expect(uncoveredStates(tasks)).toEqual([]);
  });

  test("what stands in no column, and what can be put on a board", () => {
    const items = ["a0", "a1", "a2", "a2", "b1"].map((stateId, i) => ({ id: `i${i}`, stateId }));
    expect(astrayOf(showing(["a1"], ["a2"]), items)).toEqual({
      itemIds: ["i2", "i3", "i4"],
      states: ["a2", "b1"],
      // Another board shows a2 already.
      workflowIds: ["b"],
    });
    expect(astrayOf(showing(["a1"], ["a2"]), items.slice(0, 2))).toEqual({
      itemIds: [],
      states: [],
      workflowIds: [],
    });
  });
});

describe("words and parts of columns", () => {
  test.each([
    ["unstarted", "waiting"],
    ["waiting", "waiting"],
    ["working", "working"],
    ["finished", "finished"],
  ] as const)("a state that is %s stands in a part that is %s", (kind, part) =>
    expect(partOf(kind)).toBe(part),
  );

  test.each([
    ["Review", "waiting", "Review, waiting"],
    ["Review", "", "Review"],
    ["Review", "Review", "Review"],
  ])("%s with %p is called %s", (stage, name, words) =>
    expect(columnWords({ stage, name })).toBe(words),
  );

  test("the ladder adds the states of a column, has 0 where nobody passed, none for finished", () => {
    const column = (id: string, part: Column["part"], ...stateIds: string[]): Column => ({
      ...valueColumns("team", VALUES, [])[0],
      id,
      part,
      stateIds,
    });
    const columns = [
      column("both", "working", "x", "y"),
      column("nobody", "waiting", "z"),
      column("end", "finished", "x"),
    ];
    const states = [
      { stateId: "x", average: 2 },
      { stateId: "y", average: 0.5 },
    ];
    const times = { states } as never;
    expect(ladder(columns, times, 3)).toEqual({ both: 2.5, nobody: 0, end: null });
    expect(ladder(columns, times, 0)).toEqual({ both: null, nobody: null, end: null });
  });
});

describe("an age track", () => {
  test("runs to the longest of expectation, 85 % and age; its marks are shares of that", () => {
    expect(ageTrack(aged(5), 8, { p50: 4, p85: 10, p95: 12 })).toEqual({
      dot: 0.5,
      median: 0.4,
      p85: 1,
      past85: false,
      words: "5 d",
    });
    expect(ageTrack(aged(20), 8, { p50: 4, p85: 10, p95: 12 })).toEqual({
      dot: 1,
      median: 0.2,
      p85: 0.5,
      past85: true,
      words: "20 d · past 85 %",
    });
  });

  test("before anything has finished, shows the age alone", () => {
    expect(ageTrack(aged(3), 6, { p50: null, p85: null, p95: null })).toEqual({
      dot: 0.5,
      median: null,
      p85: null,
      past85: false,
      words: "3 d",
    });
  });

  test("an age equal to the 85 % is not past them", () => {
    expect(ageTrack(aged(10), 8, { p50: 4, p85: 10, p95: 12 }).past85).toBe(false);
  });
});

describe("columns that nothing of now is in", () => {
  const day = (n: number) => `2026-03-${String(n).padStart(2, "0")}`;
  const sprints = [1, 5, 9, 13, 17].map((from, i) => ({
    id: `s${i}`,
    name: `Sprint ${i}`,
    goal: "",
    startsOn: day(from),
    endsOn: day(from + 3),
    past: from + 3 < 10,
  }));
  const releases = [
    {
      id: "r1",
      name: "Spring",
      startsOn: null,
      dueOn: null,
      releasedAt: 1,
      withdrawnAt: null,
      past: true,
    },
    {
      id: "r2",
      name: "Summer",
      startsOn: null,
      dueOn: null,
      releasedAt: null,
      withdrawnAt: null,
      past: false,
    },
  ];
  const asideOf = (by: "sprint" | "release" | "team", cards: Card[]) => {
    const columns = valueColumns(by, { ...VALUES, sprints, releases }, cards);
    const of = { by, cards, boxes: { sprints, releases }, today: day(10) };
    return columnsAside(columns, of)
      .filter(({ aside }) => aside)
      .map(({ value }) => value);
  };

  test("are set aside: sprints but the one before, this one and the next, and what is out", () => {
    expect(asideOf("sprint", [])).toEqual(["s0", "s4"]);
    expect(asideOf("release", [])).toEqual(["r1"]);
    expect(asideOf("team", [])).toEqual([]);
  });

  test("stay in sight while something is in them", () => {
    expect(asideOf("sprint", [card({ sprintId: "s0" }), card({ sprintId: "gone" })])).toEqual([
      "s4",
    ]);
    expect(asideOf("release", [card({ releaseId: "r1" })])).toEqual([]);
  });
});

describe("where what happened says something else than the state", () => {
  const told = (change: Partial<Card>) =>
    card({ stateKind: "working", reviewerId: null, ...change });
  const around = (children: number, finishedChildren: number, talked = 0, worked = false) => ({
    children,
    finishedChildren,
    talked,
    worked,
  });
  const review = { byReviewer: true };
  const build = { byReviewer: false };

  test.each<
    [string, Partial<Card>, { byReviewer: boolean }, ReturnType<typeof around>, string | null]
  >([
    ["in review without a reviewer", {}, review, around(0, 0), "nobody is its reviewer"],
    ["waiting for review", { stateKind: "waiting" }, review, around(0, 0), null],
    ["in review with one", { reviewerId: "ivo" }, review, around(0, 0), null],
    ["built without a reviewer", {}, build, around(0, 0), null],
    ["all below is done", {}, build, around(3, 3), "all 3 children are done"],
    ["its only child is done", {}, build, around(1, 1), "its only child is done"],
    ["some below is done", {}, build, around(3, 2), null],
    ["finished as all below", { stateKind: "finished" }, build, around(3, 3), null],
    [
      "not begun, but below",
      { stateKind: "unstarted" },
      build,
      around(3, 1),
      "begun: 1 of 3 children done",
    ],
    ["not begun at all", { stateKind: "unstarted" }, build, around(3, 0), null],
    [
      "talked about for days",
      { stateKind: "unstarted" },
      build,
      around(0, 0, 3),
      "talked about on 3 days, not begun",
    ],
    [
      "worked on for days",
      { stateKind: "unstarted" },
      build,
      around(0, 0, 4, true),
      "worked on for 4 days, not begun",
    ],
    ["talked about for a day", { stateKind: "unstarted" }, build, around(0, 0, 2), null],
    [
      "talked about at work",
      { stateKind: "working", reviewerId: "ivo" },
      build,
      around(0, 0, 9),
      null,
    ],
    ["taken back", { withdrawn: true }, review, around(1, 1), null],
  ])("%s", (_, change, state, below, words) => {
    expect(realityOf(told(change), state, below)?.words ?? null).toBe(words);
  });
});
