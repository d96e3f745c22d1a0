import type { PlanItem, PlanSprint } from "@/core/plan/planning-view";
import { questionWords, type AskedScope } from "@/core/plan/scope-reason";
import { sprintLoad } from "@/core/plan/sprint-load";
import {
  endAfterWeeks,
  overlap,
  seasonWords,
  sprintAfter,
  sprintsInARow,
  sprintBounds,
  sprintSchema,
  sprintStanding,
  sprintWords,
  weeksOfSprint,
  type PlannedSprint,
  type Sprint,
} from "@/core/plan/sprint";

const sprint = (name: string, startsOn: string, endsOn: string): Sprint => ({
  id: name,
  name,
  goal: "",
  startsOn,
  endsOn,
});
const ebb = sprint("Ebb", "2026-02-02", "2026-02-15");
const flood = sprint("Flood", "2026-02-16", "2026-03-01");
const spring = sprint("Spring", "2026-03-16", "2026-03-29");

describe("a sprint", () => {
  const saysOf = (given: Sprint) =>
    sprintSchema.safeParse(given).error?.issues.map((i) => [i.path.join("."), i.message]) ?? [];

  it("is of a day at least and of fourteen weeks at most; a long one is a season", () => {
    expect(saysOf(sprint("A day", "2026-03-01", "2026-03-01"))).toEqual([]);
    expect(saysOf(sprint("A month", "2026-03-01", "2026-03-31"))).toEqual([]);
    expect(saysOf(sprint("A season", "2026-03-01", "2026-06-06"))).toEqual([]);
    expect(saysOf(sprint("Too long", "2026-03-01", "2026-06-07"))).toEqual([
      ["endsOn", "A sprint lasts fourteen weeks at most."],
    ]);
    expect(seasonWords(sprint("A month", "2026-03-01", "2026-03-31"))).toBeNull();
    expect(seasonWords(sprint("More", "2026-03-01", "2026-04-01"))).toBe("a season, not a sprint");
    expect(saysOf(sprint("Backwards", "2026-03-02", "2026-03-01"))).toEqual([
      ["endsOn", "It ends before it starts."],
    ]);
  });

  it("needs a name and days that are days", () => {
    expect(saysOf(sprint("  ", "2026-03-01", "2026-03-02"))[0][1]).toBe("It needs a name.");
    expect(saysOf(sprint("x".repeat(61), "2026-03-01", "2026-03-02"))[0][1]).toMatch(/60/);
    expect(saysOf(sprint("No day", "2026-02-30", "2026-03-02"))[0][0]).toBe("startsOn");
  });
});

describe("how a sprint stands", () => {
  const zone = "Europe/London";
  const of = (more: Partial<PlannedSprint> = {}): PlannedSprint => ({
    ...ebb,
    startedAt: null,
    endedAt: null,
    ...more,
  });
  const at = (text: string) => Date.parse(text);

  it.each([
    ["2026-02-01", {}, "coming"],
    ["2026-02-01", { startedAt: 1 }, "running"],
    ["2026-02-02", {}, "running"],
    ["2026-02-15", {}, "running"],
    ["2026-02-16", {}, "over"],
    ["2026-02-10", { endedAt: 1 }, "ended"],
    ["2026-02-20", { endedAt: 1 }, "ended"],
  ])("on %s with %j: %s", (today, more, standing) =>
    expect(sprintStanding(of(more), today)).toBe(standing),
  );

  it("counts from its start, up to when it ended, and never behind its last day", () => {
    const bounds = (more: Partial<PlannedSprint>, now: string) =>
      sprintBounds({ ...of(more), zone }, at(now));
    expect(bounds({}, "2026-02-01T12:00Z")).toBeNull();
    expect(bounds({}, "2026-02-03T12:00Z")).toEqual({
      start: at("2026-02-02T00:00Z"),
      end: at("2026-02-03T12:00Z"),
    });
    const last = at("2026-02-16T00:00Z") - 1;
    expect(bounds({}, "2026-03-01T00:00Z")?.end).toBe(last);
    const early = { startedAt: at("2026-01-30T09:00Z"), endedAt: at("2026-02-12T17:00Z") };
    expect(bounds(early, "2026-03-01T00:00Z")).toEqual({
      start: early.startedAt,
      end: early.endedAt,
    });
    // Ended late: what came behind its last day is not its own.
    expect(bounds({ endedAt: at("2026-02-20T00:00Z") }, "2026-03-01T00:00Z")?.end).toBe(last);
  });
});

describe("the words for sprints", () => {
  const words = (today: string) => sprintWords([spring, ebb, flood], today);

  it.each([
    ["2026-02-01", null, "Ebb", null, "Flood", []],
    ["2026-02-02", "Ebb", "Flood", null, "Spring", []],
    ["2026-02-15", "Ebb", "Flood", null, "Spring", []],
    ["2026-02-16", "Flood", "Spring", "Ebb", null, ["Ebb"]],
    ["2026-03-10", null, "Spring", "Flood", null, ["Ebb", "Flood"]],
    ["2026-03-29", "Spring", null, "Flood", null, ["Ebb", "Flood"]],
    ["2026-03-30", null, null, "Spring", null, ["Ebb", "Flood", "Spring"]],
  ])(
    "on %s: current %s, next %s, previous %s, after next %s, last three %j",
    (today, current, next, previous, afterNext, lastThree) =>
      expect(words(today)).toEqual({
        current,
        next,
        previous,
        "after next": afterNext,
        "last three": lastThree,
      }),
  );
  it("the last three are no more than three", () => {
    const neap = sprint("Neap", "2026-03-30", "2026-04-12");
    expect(sprintWords([neap, spring, ebb, flood], "2026-05-01")["last three"]).toEqual([
      "Flood",
      "Spring",
      "Neap",
    ]);
  });
});

describe("the sprint that comes next", () => {
  it("follows the last one and is counted on", () =>
    expect(sprintAfter([ebb, flood], "2026-02-20", 14)).toEqual({
      name: "Sprint 3",
      startsOn: "2026-03-02",
      endsOn: "2026-03-15",
    }));

  it("is as long as the project says, in days too, and has the next name", () => {
    const odd = sprint("Night tide 9", "2026-03-02", "2026-03-11");
    expect(weeksOfSprint(odd)).toBeNull();
    expect(sprintAfter([odd], "2026-03-10", 10)).toEqual({
      name: "Night tide 10",
      startsOn: "2026-03-12",
      endsOn: "2026-03-21",
    });
    expect(endAfterWeeks("2026-03-02", 1)).toBe("2026-03-08");
  });

  it("follows one that ends today", () =>
    expect(sprintAfter([ebb], "2026-02-15", 14).startsOn).toBe("2026-02-16"));

  it("begins today where none is left", () => {
    expect(sprintAfter([], "2026-03-02", 14)).toEqual({
      name: "Sprint 1",
      startsOn: "2026-03-02",
      endsOn: "2026-03-15",
    });
    expect(sprintAfter([ebb], "2026-02-16", 7).startsOn).toBe("2026-02-16");
  });

  it("several follow each other without a gap, and share no day", () => {
    const made = sprintsInARow([flood], "2026-02-20", { days: 7, ids: ["a", "b", "c"] });
    expect(made.map(({ id, name, startsOn, endsOn }) => [id, name, startsOn, endsOn])).toEqual([
      ["a", "Sprint 2", "2026-03-02", "2026-03-08"],
      ["b", "Sprint 3", "2026-03-09", "2026-03-15"],
      ["c", "Sprint 4", "2026-03-16", "2026-03-22"],
    ]);
    expect(overlap([flood, ...made])).toBeNull();
  });
});

describe("sprints that share days", () => {
  it("are found whatever their order", () => {
    const late = sprint("Late", "2026-03-01", "2026-03-05");
    expect(overlap([spring, late, ebb, flood])?.map((s) => s.name)).toEqual(["Flood", "Late"]);
  });

  it("are none where one begins the day after another", () => {
    expect(overlap([flood, ebb, spring])).toBeNull();
    expect(overlap([])).toBeNull();
  });
});

describe("why what a running sprint holds was changed", () => {
  const asked = (key: string, more: Partial<AskedScope> = {}): AskedScope => ({
    key,
    itemId: key,
    seq: 3,
    sprintId: "s",
    sprintName: "Sprint 7",
    kind: "added",
    ...more,
  });

  it("is asked of each by its key, and of several at once", () => {
    expect(questionWords([asked("TIX-5")])).toBe("Sprint 7 runs already. Why does TIX-5 come in?");
    expect(questionWords([asked("TIX-5", { kind: "taken out" })])).toBe(
      "Sprint 7 runs. Why does TIX-5 go out of it?",
    );
    const several = ["TIX-1", "TIX-2", "TIX-3", "TIX-4", "TIX-5", "TIX-6"].map((key) => asked(key));
    expect(questionWords(several)).toBe(
      "Sprint 7 runs already. Why do TIX-1, TIX-2, TIX-3, TIX-4 and 2 more come in?",
    );
    expect(questionWords([asked("TIX-1"), asked("TIX-2", { kind: "taken out" })])).toBe(
      "Sprints run that TIX-1, TIX-2 came into or went out of. Why?",
    );
  });
});

test("how much is in a sprint counts what was finished in it and what is not seen", () => {
  const planned = [
    { sprintId: "s", estimate: 5 },
    { sprintId: "s", estimate: null },
    { sprintId: "other", estimate: 8 },
  ] as PlanItem[];
  const sprint = {
    id: "s",
    room: 11.6,
    donePoints: 6,
    unseen: { items: 1, points: 3 },
  } as PlanSprint;
  expect(sprintLoad({ planned }, sprint)).toEqual({ items: 3, points: 14, room: 12, over: 2 });
  expect(sprintLoad({ planned }, { ...sprint, room: null })).toMatchObject({ room: null, over: 0 });
  expect(sprintLoad({ planned }, { ...sprint, room: 20 }).over).toBe(0);
});
