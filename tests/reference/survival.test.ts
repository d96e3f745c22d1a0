import { readFileSync } from "node:fs";
import path from "node:path";
import { survivalAt, survivalCurve } from "@/core/forecast/survival";

interface Case {
  days: number[];
  ended: boolean[];
  at: number[];
  atRisk: number[];
  survival: number[];
}
const { cases } = JSON.parse(readFileSync(path.join(__dirname, "survival.json"), "utf8")) as {
  cases: Case[];
};

test.each(cases.map((one, i) => [i, one] as const))(
  "the survival curve is R's survfit() on random times that were cut off, case %i",
  (_, { days, ended, at, atRisk, survival }) => {
    const curve = survivalCurve(days.map((each, i) => ({ days: each, ended: ended[i] })));
    // R lists the days on which something ended, and where nothing did no day at all.
    expect(curve.map((step) => step.days)).toEqual(at);
    expect(curve.map((step) => step.atRisk)).toEqual(atRisk);
    curve.forEach((step, i) => expect(step.survival).toBeCloseTo(survival[i], 12));
  },
);

/**
 * Remission of 21 patients on 6-mercaptopurine in weeks; a plus: still in remission. E. J. Freireich
 * et al., Blood 21 (1963), 699-716; the estimate as it is printed in D. Collett, "Modelling Survival
 * Data in Medical Research", and in many other textbooks: 6 weeks 0.857, 7 0.807, 10 0.753, 13 0.690,
 * 16 0.627, 22 0.538, 23 0.448.
 */
test("the survival curve is the one printed for the 6-mercaptopurine remissions", () => {
  const weeks = "6 6 6 6+ 7 9+ 10 10+ 11+ 13 16 17+ 19+ 20+ 22 23 25+ 32+ 32+ 34+ 35+";
  const curve = survivalCurve(
    weeks.split(" ").map((week) => ({ days: parseInt(week), ended: !week.endsWith("+") })),
  );
  expect(curve.map(({ days, atRisk, ended }) => [days, atRisk, ended])).toEqual([
    [6, 21, 3],
    [7, 17, 1],
    [10, 15, 1],
    [13, 12, 1],
    [16, 11, 1],
    [22, 7, 1],
    [23, 6, 1],
  ]);
  const printed = [0.857, 0.807, 0.753, 0.69, 0.627, 0.538, 0.448];
  curve.forEach((step, i) => expect(step.survival).toBeCloseTo(printed[i], 3));
  expect(survivalAt(curve, 5)).toBe(1);
  expect(survivalAt(curve, 12)).toBeCloseTo(0.753, 3);
});
