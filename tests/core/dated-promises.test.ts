import { DAY, HOUR } from "@/core/calendar/instant";
import { EVERY_ITEM } from "@/core/condition/condition";
import { brokenByMerging, brokenByParking } from "@/core/intake/broken-promise";
import { datedPromises, promiseFor } from "@/core/intake/dated-promises";
import type { ServiceTarget, TargetState } from "@/core/intake/service-target";

const target = (id: string, resolveHours: number): ServiceTarget => ({
  id,
  name: id,
  condition: EVERY_ITEM,
  answerHours: null,
  resolveHours,
  working: false,
});
const [a, b, changed] = [target("a", 10), target("b", 20), target("a", 5)];

describe("promises in the course of time", () => {
  const promises = datedPromises([
    { validFrom: 0, value: [] },
    { validFrom: 100, value: [a, b] },
    { validFrom: 200, value: [b, changed] },
  ]);
  const first = (since: number, fits: (t: ServiceTarget) => boolean = () => true) =>
    promiseFor(promises, since, (place) => fits(promises.all[place]));

  test("what came in is owed what was promised then, in the order of then", () => {
    expect([0, 99, 100, 199, 200, 5_000].map((at) => first(at))).toEqual([null, null, a, a, b, b]);
    expect([100, 200].map((at) => first(at, (t) => t.id === "a"))).toEqual([a, changed]);
  });

  test("each wording is asked once, however often it was in force", () => {
    expect(promises.all).toEqual([a, b, changed]);
  });

  test("nothing was ever promised: nothing is owed", () => {
    const none = datedPromises([]);
    expect([none.all, none.at(7)]).toEqual([[], []]);
  });
});

describe("what a verdict breaks", () => {
  const state = (standing: TargetState["standing"], dueAt: number | null): TargetState => ({
    standing,
    dueAt,
    used: 0,
    left: 0,
    working: false,
  });
  const zone = "Europe/Lisbon";
  const due = Date.UTC(2026, 5, 10, 12);
  const promise = { target: "t", state: state("on time", due) };
  const day = Math.floor(due / DAY);

  test("parking until the day it is due leaves time, until the next day does not", () => {
    expect(brokenByParking(promise, day, zone)).toBeNull();
    expect(brokenByParking(promise, day + 1, zone)).toEqual({
      target: "t",
      dueAt: due,
      certain: true,
    });
  });

  test("the day begins by the clocks of the project", () => {
    const atNight = { target: "t", state: state("on time", Date.UTC(2026, 5, 10, 23, 30)) };
    // Half past midnight of the 11th in Lisbon: that day has begun before it is due.
    expect(brokenByParking(atNight, day + 1, zone)).toBeNull();
    expect(brokenByParking(atNight, day + 1, "UTC")).not.toBeNull();
  });

  test("for an item nobody knows for certain; what is late, paused or not promised is not broken", () => {
    expect(brokenByParking(promise, null, zone)).toMatchObject({ certain: false });
    for (const of of [
      null,
      { target: "t", state: state("missed", due) },
      { target: "t", state: state("paused", null) },
    ])
      expect(brokenByParking(of, day + 9, zone)).toBeNull();
  });

  test("merging breaks what was not late before and is then", () => {
    const after = { target: "t", state: state("missed", due - HOUR) };
    expect(brokenByMerging(state("on time", due), after)).toMatchObject({ dueAt: due - HOUR });
    expect(brokenByMerging(null, after)).not.toBeNull();
    expect(brokenByMerging(state("missed", due), after)).toBeNull();
    expect(brokenByMerging(state("on time", due), promise)).toBeNull();
    expect(brokenByMerging(state("on time", due), null)).toBeNull();
  });
});
