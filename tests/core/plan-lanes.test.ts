import { planLanes } from "@/core/plan/plan-lanes";

const item = (id: string, assigneeId: string | null, priority: "low" | "urgent" = "low") => ({
  id,
  assigneeId,
  teamId: null,
  priority,
});
const items = [item("a", "noor"), item("b", null, "urgent"), item("c", "ivo"), item("d", "noor")];
const keys = (by: "none" | "person" | "team" | "priority") =>
  planLanes(items, by, ["ivo", "noor", "idle"]).map(({ key, items: own }) => [
    key,
    own.map(({ id }) => id).join(""),
  ]);

describe("the lanes of a plan", () => {
  test("stand in the order of the people, nobody last, and are left out where they are empty", () =>
    expect(keys("person")).toEqual([
      ["ivo", "c"],
      ["noor", "ad"],
      [null, "b"],
    ]));

  test("by priority the most urgent stands first", () =>
    expect(keys("priority")).toEqual([
      ["urgent", "b"],
      ["low", "acd"],
    ]));

  test("without lanes all are one, in their order", () =>
    expect(keys("none")).toEqual([[null, "abcd"]]));

  test("who is not among the people of the project loses nothing", () =>
    expect(planLanes([item("x", "stranger")], "person", ["ivo"])).toEqual([
      { key: null, items: [item("x", "stranger")] },
    ]));
});
