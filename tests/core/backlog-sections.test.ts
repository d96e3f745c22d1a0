import type { Card } from "@/core/board/card";
import {
  factsOfColumns,
  storedBacklogLook,
  USUAL_BACKLOG_LOOK,
  backlogColumns,
  backlogLookSchema,
} from "@/core/plan/backlog-look";
import { withCard, withPage } from "@/core/plan/backlog-pages";
import {
  backlogSections,
  isInSection,
  rankedSection,
  type SectionGround,
} from "@/core/plan/backlog-sections";
import type { BacklogRows } from "@/core/plan/backlog-view";
import { moveInto } from "@/core/plan/pull";
import type { PlannedSprint } from "@/core/plan/sprint";
import type { Workflow } from "@/core/workflow/workflow";

const sprint = (
  id: string,
  startsOn: string,
  endsOn: string,
  endedAt: number | null = null,
): PlannedSprint => ({
  id,
  name: `Sprint ${id}`,
  goal: "",
  startsOn,
  endsOn,
  startedAt: null,
  endedAt,
});

const GROUND: SectionGround = {
  column: { stage: "Chosen", stateIds: ["chosen"] },
  waiting: [
    { id: "idea", name: "Idea" },
    { id: "sized", name: "Sized" },
    { id: "bug-idea", name: "idea" },
  ],
  sprints: [
    sprint("8", "2026-06-15", "2026-06-28"),
    sprint("6", "2026-05-18", "2026-05-31", 1),
    sprint("7", "2026-06-01", "2026-06-14"),
    sprint("5", "2026-05-04", "2026-05-17"),
  ],
  today: "2026-06-03",
};

const card = (of: Partial<Card>): Card =>
  ({
    id: "a",
    version: 1,
    rank: "a0",
    stateId: "idea",
    stateKind: "unstarted",
    sprintId: null,
    withdrawn: false,
    ...of,
  }) as Card;

/** In which parts an item stands, by their names. */
const standsIn = (how: "one list" | "by state" | "by sprint", of: Partial<Card>) =>
  backlogSections(how, GROUND)
    .filter((section) => isInSection(section, card(of)))
    .map(({ name }) => name);

describe("the parts of a backlog", () => {
  it("by state: what is chosen next, then what waits, the state nearest to it first", () => {
    const sections = backlogSections("by state", GROUND);
    expect(sections.map(({ name }) => name)).toEqual(["Chosen", "Sized", "Idea"]);
    expect(sections.map(({ pulledInto }) => pulledInto)).toEqual([true, false, false]);
    expect(backlogSections("by state", { ...GROUND, column: null })).toHaveLength(2);
  });

  it("by sprint: those that have begun and nobody ended, those to come, and none of them", () => {
    const names = backlogSections("by sprint", GROUND).map(({ name }) => name);
    expect(names).toEqual(["Sprint 5", "Sprint 7", "Sprint 8", "In none of these"]);
    const far = Array.from({ length: 20 }, (_, i) =>
      sprint(`x${i}`, `2027-01-${10 + i}`, `2027-01-${10 + i}`),
    );
    expect(backlogSections("by sprint", { ...GROUND, sprints: far })).toHaveLength(7);
    const none = backlogSections("by sprint", { ...GROUND, sprints: [] });
    expect(none.map(({ name }) => name)).toEqual(["In no sprint"]);
  });

  it("each item stands in one of them", () => {
    expect(standsIn("by state", { stateId: "bug-idea" })).toEqual(["Idea"]);
    expect(standsIn("by state", { stateId: "chosen", stateKind: "waiting" })).toEqual(["Chosen"]);
    expect(standsIn("by sprint", { sprintId: "7", stateKind: "working" })).toEqual(["Sprint 7"]);
    expect(standsIn("by sprint", { sprintId: "7", stateKind: "finished" })).toEqual([]);
    // What waits in a sprint that was ended waits in none that is shown.
    expect(standsIn("by sprint", { sprintId: "6" })).toEqual(["In none of these"]);
    expect(standsIn("by sprint", { stateKind: "working" })).toEqual([]);
    expect(standsIn("one list", { stateKind: "working" })).toEqual([]);
    expect(standsIn("one list", { withdrawn: true })).toEqual([]);
    expect(standsIn("one list", {})).toEqual(["Backlog"]);
  });

  it("the reach is drawn where all that waits stands by rank, and nowhere else", () => {
    const ranked = (how: Parameters<typeof backlogSections>[0], ground = GROUND) =>
      rankedSection(backlogSections(how, ground))?.name;
    expect(ranked("one list")).toBe("Backlog");
    expect(ranked("by state")).toBeUndefined();
    expect(ranked("by sprint")).toBeUndefined();
    expect(ranked("by state", { ...GROUND, waiting: [{ id: "idea", name: "Idea" }] })).toBe("Idea");
  });
});

describe("the rows of a part", () => {
  const [, , idea] = backlogSections("by state", GROUND);
  const rows = (cards: Card[], next: string | null = null): BacklogRows => ({
    cards,
    around: {},
    values: {},
    parents: {},
    next,
    matching: 7,
  });
  const ids = ({ cards }: BacklogRows) => cards.map(({ id }) => id);
  const [a, b] = [card({ id: "a", rank: "a0" }), card({ id: "b", rank: "a2" })];

  it("take in what comes where it belongs, by rank, and count it", () => {
    const now = withCard(rows([a, b]), idea, card({ id: "c", rank: "a1" }));
    expect([ids(now), now.matching]).toEqual([["a", "c", "b"], 8]);
  });

  it("let go of what belongs elsewhere", () => {
    const gone = card({ id: "a", version: 2, stateId: "chosen", stateKind: "waiting" });
    const now = withCard(rows([a, b]), idea, gone);
    expect([ids(now), now.matching]).toEqual([["b"], 6]);
    expect(withCard(rows([b]), idea, gone)).toEqual(rows([b]));
  });

  it("keep the newer of two", () => {
    const newer = rows([card({ id: "a", version: 3 })]);
    expect(withCard(newer, idea, card({ id: "a", version: 2, stateKind: "finished" }))).toBe(newer);
  });

  it("leave out what stands behind the rows that were read", () => {
    const far = card({ id: "c", rank: "a5" });
    expect(ids(withCard(rows([a, b], "on"), idea, far))).toEqual(["a", "b"]);
    expect(ids(withCard(rows([a, b], null), idea, far))).toEqual(["a", "b", "c"]);
  });

  it("are put together page by page, each once", () => {
    const first = { ...rows([a, b], "on"), values: { a: [1] } };
    const second = { ...rows([b, card({ id: "c", rank: "a5" })]), values: { c: [2] } };
    const both = withPage(first, second);
    expect([ids(both), both.next, both.values]).toEqual([
      ["a", "b", "c"],
      null,
      { a: [1], c: [2] },
    ]);
  });
});

describe("the move into a part", () => {
  const state = (id: string, position: number) => ({ id, name: id, kind: "waiting", position });
  const process = {
    states: [state("idea", 0), state("sized", 1), state("chosen", 2), state("built", 3)],
    transitions: [
      { id: "1", from: ["idea"], to: "built", verb: "build" },
      { id: "2", from: ["idea"], to: "chosen", verb: "choose" },
    ],
  } as unknown as Workflow;

  it("is the one into the earliest of its states; none where it is there, or none leads there", () => {
    expect(moveInto(process, "idea", ["built", "chosen"])?.verb).toBe("choose");
    expect(moveInto(process, "idea", ["idea", "chosen"])).toBeNull();
    expect(moveInto(process, "sized", ["chosen"])).toBeNull();
  });
});

describe("how somebody looks at a backlog", () => {
  it("is read from an address, and refused where it names what is no column", () => {
    expect(backlogColumns.parse("parent,estimate")).toEqual(["parent", "estimate"]);
    expect(backlogColumns.parse("")).toEqual([]);
    for (const wrong of ["title", "nothing", "everIn", "estimate,,"])
      expect(backlogColumns.safeParse(wrong).success).toBe(false);
    expect(backlogColumns.safeParse(Array(11).fill("estimate").join()).success).toBe(false);
    expect(backlogLookSchema.safeParse({ ...USUAL_BACKLOG_LOOK, counts: ["title"] }).success).toBe(
      false,
    );
  });

  it("opens without what is not known any more", () => {
    const stored = { order: "by state", columns: ["estimate", "gone"], counts: ["priority", "x"] };
    expect(storedBacklogLook(stored)).toEqual({
      order: "by state",
      columns: ["estimate"],
      counts: ["priority"],
    });
    expect(storedBacklogLook({ order: "upside down" })).toEqual(USUAL_BACKLOG_LOOK);
    expect(storedBacklogLook(undefined)).toEqual(USUAL_BACKLOG_LOOK);
  });

  it("knows facts and what an item stands under apart", () => {
    expect(factsOfColumns(["parent", "estimate"])).toEqual(["estimate"]);
  });
});
