import { overlap, sprintAfter, sprintSchema, sprintWords, type Sprint } from "@/core/plan/sprint";

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

  it("is of a day at least and of 31 at most", () => {
    expect(saysOf(sprint("A day", "2026-03-01", "2026-03-01"))).toEqual([]);
    expect(saysOf(sprint("A month", "2026-03-01", "2026-03-31"))).toEqual([]);
    expect(saysOf(sprint("Too long", "2026-03-01", "2026-04-01"))).toEqual([
      ["endsOn", "A sprint lasts a month at most."],
    ]);
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
  it("follows the last one, for two weeks, and is counted on", () =>
    expect(sprintAfter([ebb, flood], "2026-02-20")).toEqual({
      name: "Sprint 3",
      startsOn: "2026-03-02",
      endsOn: "2026-03-15",
    }));

  it("follows one that ends today", () =>
    expect(sprintAfter([ebb], "2026-02-15").startsOn).toBe("2026-02-16"));

  it("begins today where none is left", () => {
    expect(sprintAfter([], "2026-03-02")).toEqual({
      name: "Sprint 1",
      startsOn: "2026-03-02",
      endsOn: "2026-03-15",
    });
    expect(sprintAfter([ebb], "2026-02-16").startsOn).toBe("2026-02-16");
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
