import { DAY, HOUR } from "@/core/calendar/instant";
import { dayNumber, dayStart, weekStart } from "@/core/calendar/zone";
import { triageFigures } from "@/core/intake/triage-figures";

const zone = "Europe/Lisbon";
// Monday 2 March 2026, midnight in Lisbon.
const monday = dayStart(weekStart(dayNumber(Date.UTC(2026, 2, 4), zone)), zone);
const period = { from: monday, to: monday + 14 * DAY };

test("what came in and what was judged, by week, way and verdict; a week without anything is there", () => {
  const figures = triageFigures(
    {
      came: [
        { way: "form", at: monday },
        { way: "mail", at: monday + 6 * DAY },
        { way: "form", at: monday + 6 * DAY },
      ],
      judged: [
        { kind: "accept", at: monday + HOUR },
        { kind: "decline", at: monday + 2 * HOUR },
        { kind: "accept", at: monday + 3 * HOUR },
      ],
      took: [HOUR, 3 * HOUR, 2 * HOUR, 10 * HOUR],
    },
    period,
    zone,
  );
  expect(figures.weeks.map((w) => [w.came, w.byKind.accept, w.byKind.decline])).toEqual([
    [3, 2, 1],
    [0, 0, 0],
  ]);
  expect(figures).toMatchObject({
    came: 3,
    judged: 3,
    byWay: { form: 2, mail: 1, hand: 0 },
    byKind: { accept: 2, decline: 1, merge: 0 },
    median: 2 * HOUR,
    p85: 10 * HOUR,
  });
});

test("a week begins on Monday by the clocks of the project", () => {
  const late = { way: "form" as const, at: monday + 7 * DAY - 1 };
  const early = { way: "form" as const, at: monday + 7 * DAY };
  const { weeks } = triageFigures({ came: [late, early], judged: [], took: [] }, period, zone);
  expect(weeks.map((w) => w.came)).toEqual([1, 1]);
});

test("nothing happened: no figure is made up", () => {
  const { median, p85, weeks } = triageFigures({ came: [], judged: [], took: [] }, period, zone);
  expect([median, p85, weeks.length]).toEqual([null, null, 2]);
});
