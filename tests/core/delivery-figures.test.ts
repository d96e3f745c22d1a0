import { DAY, HOUR } from "@/core/calendar/instant";
import {
  deliveriesOf,
  deliveryFigures,
  type Failure,
  type FailureKind,
  type LiveDeployment,
} from "@/core/ship/delivery-figures";

/*
 * The four figures on a table of events that was worked by hand, with a sheet of paper:
 *
 *   day  part    what                      commits written on day
 *   1    pages   deployed  (a)             0, 0.5
 *   3    pages   deployed  (b), bad        1
 *   3.25 pages   rolled back
 *   4    pages   deployed  (c)             2, 3
 *   5    prices  deployed  (d)             1
 *   6    pages   failed, never live        5
 *   9    prices  deployed  (e), bad        -
 *   9.75 prices  rolled back
 *
 * In the days from 0 to 10 that are five deployments, so one every two days. Lead times of commits are
 * 1, 0.5, 2, 2, 1, 4 days: in order 0.5, 1, 1, 2, 2, 4, so the median is 1.5. Two of five were taken back,
 * after 0.25 and 0.75 days: the median is 0.5 days.
 */
const row = (
  at: number,
  part: string,
  outcome: LiveDeployment["outcome"],
  written: number[] = [],
): LiveDeployment => ({
  ...{ id: `${part} ${at}`, part, at: at * DAY, outcome },
  writtenAt: written.map((day) => day * DAY),
});
const TABLE = [
  row(1, "pages", "deployed", [0, 0.5]),
  row(3, "pages", "deployed", [1]),
  row(3.25, "pages", "rolled back"),
  row(4, "pages", "deployed", [2, 3]),
  row(5, "prices", "deployed", [1]),
  row(6, "pages", "failed", [5]),
  row(9, "prices", "deployed"),
  row(9.75, "prices", "rolled back"),
];
const between = (from: number, to: number) =>
  deliveryFigures(TABLE, { from: from * DAY, to: to * DAY });

test("the worked table", () => {
  expect(between(0, 10)).toEqual({
    ...{ days: 10, deployments: 5, everyDays: 2, leadTime: 1.5 * DAY },
    ...{ failed: 2, failureShare: 0.4, timeToRestore: 12 * HOUR },
  });
});

test("in any order of the events", () => {
  expect(deliveryFigures(TABLE.toReversed(), { from: 0, to: 10 * DAY })).toEqual(between(0, 10));
});

test("a deployment counts where it happened, with what became of it later", () => {
  expect(between(2.5, 3.1)).toMatchObject({ deployments: 1, failed: 1, timeToRestore: 6 * HOUR });
  expect(between(3.1, 3.5)).toMatchObject({ deployments: 0, failed: 0, everyDays: null });
});

test("what another part does takes nothing back", () => {
  const [bad] = deliveriesOf([row(1, "pages", "deployed"), row(2, "prices", "rolled back")]);
  expect(bad.failure).toBeNull();
});

test("without anything live there are no figures, not zeros", () => {
  expect(deliveryFigures([], { from: 0, to: DAY })).toEqual({
    ...{ days: 1, deployments: 0, everyDays: null, leadTime: null, failed: 0 },
    ...{ failureShare: null, timeToRestore: null },
  });
});

describe("what names a failure", () => {
  const one = (more: Partial<LiveDeployment>) => ({ ...row(1, "pages", "deployed", [0]), ...more });
  const hotfix = { kind: "hotfix" as const, at: 2 * DAY, mendedAt: 5 * DAY };
  const withdrawn = { kind: "withdrawn" as const, at: 3 * DAY, mendedAt: null };
  const next = row(4, "pages", "deployed", [3]);

  test.each<[string, LiveDeployment[], FailureKind[], Failure | null]>([
    [
      "a hotfix ends when it is live",
      [one({ failures: [hotfix] }), next],
      ["hotfix"],
      { kind: "hotfix", endedAt: 5 * DAY },
    ],
    [
      "one that is not live yet has not ended",
      [one({ failures: [{ ...hotfix, mendedAt: null }] }), next],
      ["hotfix"],
      { kind: "hotfix", endedAt: null },
    ],
    [
      "what was withdrawn ends with the next deployment of the part after that",
      [one({ failures: [withdrawn] }), row(2, "pages", "deployed"), next],
      ["withdrawn"],
      { kind: "withdrawn", endedAt: 4 * DAY },
    ],
    [
      "the first that named it counts",
      [one({ failures: [withdrawn, hotfix] })],
      ["withdrawn", "hotfix"],
      { kind: "hotfix", endedAt: 5 * DAY },
    ],
    ["what is no failure here", [one({ failures: [hotfix] })], ["rolled back", "withdrawn"], null],
    [
      "an older build put back, where that is none",
      [one({}), row(2, "pages", "rolled back")],
      ["hotfix"],
      null,
    ],
  ])("%s", (_, all, names, failure) => {
    expect(deliveriesOf(all, names).at(-1)!.failure).toEqual(failure);
  });

  test("what has not ended counts as a failure, and not for how long it took", () => {
    const failures = [{ ...hotfix, mendedAt: null }];
    expect(deliveryFigures([one({ failures })], { from: 0, to: 10 * DAY })).toMatchObject({
      ...{ failed: 1, failureShare: 1, timeToRestore: null },
    });
  });
});

test("of some deployments only, the others still end what failed", () => {
  const counts = ({ writtenAt }: Pick<LiveDeployment, "writtenAt">) => writtenAt.includes(DAY);
  // Of the table those are (b), rolled back after a quarter of a day, and (d).
  expect(deliveryFigures(TABLE, { from: 0, to: 10 * DAY, counts })).toMatchObject({
    ...{ deployments: 2, failed: 1, failureShare: 0.5, timeToRestore: 6 * HOUR },
  });
});
