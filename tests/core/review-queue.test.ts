import {
  offeredReviewers,
  queueWords,
  reviewParts,
  usualTime,
  type ReviewCandidate,
  type ReviewRow,
} from "@/core/ship/review-queue";
import { obstaclesOf, daysThere } from "@/core/ship/open-work";
import { inOrderOfWork, sizeTogether, stepsTaken, type CodeWork } from "@/core/ship/item-code";

const candidate = (id: string, more: Partial<ReviewCandidate> = {}): ReviewCandidate => ({
  ...{ id, name: id, waiting: 0, knows: 0, away: false },
  ...more,
});
const NOBODY = { writers: new Set<string>(), part: null };

describe("who is offered to review", () => {
  test("never whoever wrote it, however little they have, nor who is away", () => {
    const offered = offeredReviewers(
      [candidate("writer"), candidate("away", { away: true }), candidate("busy", { waiting: 9 })],
      { ...NOBODY, writers: new Set(["writer"]) },
    );
    expect(offered.map(({ id }) => id)).toEqual(["busy"]);
  });

  test("who has little to review; knowing the part makes up for some of it, not for much", () => {
    const order = (...all: ReviewCandidate[]) =>
      offeredReviewers(all, { ...NOBODY, part: "Tickets" }).map(({ id }) => id);
    expect(order(candidate("a", { waiting: 2 }), candidate("b", { waiting: 1 }))).toEqual([
      "b",
      "a",
    ]);
    expect(
      order(candidate("new", { waiting: 0 }), candidate("knows", { waiting: 2, knows: 8 })),
    ).toEqual(["knows", "new"]);
    expect(
      order(candidate("new", { waiting: 0 }), candidate("knows", { waiting: 5, knows: 80 })),
    ).toEqual(["new", "knows"]);
  });

  test("with the reason", () => {
    const [first, second] = offeredReviewers(
      [candidate("a", { knows: 4 }), candidate("b", { waiting: 1 })],
      { ...NOBODY, part: "Tickets" },
    );
    expect(first.why).toBe("nothing to review; 4 of Tickets in a year");
    expect(second.why).toBe("1 to review; none of Tickets yet");
    expect(offeredReviewers([candidate("a")], NOBODY)[0].why).toBe("nothing to review");
  });
});

describe("the queue", () => {
  const row = (key: string, more: Partial<ReviewRow>) =>
    ({
      key,
      classOfService: "standard",
      since: 0,
      reviewer: null,
      begun: false,
      ...more,
    }) as ReviewRow;

  test("mine, nobody's, others'; what presses first, then what waits longest", () => {
    const me = { id: "me", name: "Me" };
    const { mine, nobodys, others } = reviewParts(
      [
        row("late", { since: 5 }),
        row("early", { since: 1 }),
        row("urgent", { since: 9, classOfService: "expedite" }),
        row("whenever", { since: 0, classOfService: "intangible" }),
        row("own", { reviewer: me }),
        row("theirs", { reviewer: { id: "you", name: "You" } }),
      ],
      "me",
    );
    const keys = (rows: readonly ReviewRow[]) => rows.map(({ key }) => key);
    expect(keys(nobodys)).toEqual(["urgent", "early", "late", "whenever"]);
    expect([keys(mine), keys(others)]).toEqual([["own"], ["theirs"]]);
  });

  test("in words", () => {
    expect(queueWords([{ begun: false }, { begun: false }, { begun: true }])).toBe(
      "2 wait, 1 is read",
    );
    expect(queueWords([{ begun: true }, { begun: true }])).toBe("2 are read");
  });

  test("what is usual is the median, of five at least, with the items behind it once each", () => {
    const times = [9, 1, 5, 3].map((ms) => ({ ms, ids: ["a"] }));
    expect(usualTime(times)).toBeNull();
    expect(usualTime([...times, { ms: 100, ids: ["b"] }])).toEqual({
      ...{ median: 5, of: 5, ids: ["a", "b"] },
    });
    expect(usualTime([...times, { ms: 7, ids: [] }, { ms: 2, ids: [] }])!.median).toBe(4);
  });
});

describe("how work stands", () => {
  const change = (more: object = {}) =>
    ({
      ...{ status: "open", checks: "passed", reviews: [], behind: 0, mergesCleanly: true },
      ...more,
    }) as unknown as CodeWork["change"];
  const said = (verdict: string, ofOlder = false) => ({ verdict, ofOlder });

  test("what stands against it, the gravest first; what was said of older commits does not count", () => {
    const of = (more: object, days = 1) => obstaclesOf({ change: change(more), days }, 5);
    expect(of({ reviews: [said("approved")] })).toEqual([]);
    expect(of({ reviews: [said("approved", true)] })).toEqual(["not looked at"]);
    expect(
      of({ checks: "failed", mergesCleanly: false, behind: 3, reviews: [said("sent back")] }, 6),
    ).toEqual(["checks failed", "does not merge cleanly", "sent back", "behind main", "old"]);
    expect(
      of({ reviews: [said("approved")], checks: null, mergesCleanly: null, behind: null }),
    ).toEqual([]);
    expect(obstaclesOf({ change: null, days: 5 }, 5)).toEqual([]);
    expect(obstaclesOf({ change: null, days: 6 }, 5)).toEqual(["old"]);
  });

  test("how far it is: an approval of older commits is no step", () => {
    const commits = [{}] as CodeWork["commits"];
    expect(stepsTaken({ change: null, commits })).toEqual(["written"]);
    expect(stepsTaken({ change: change({ reviews: [said("approved", true)] }), commits })).toEqual([
      "written",
      "proposed",
    ]);
    expect(
      stepsTaken({ change: change({ status: "merged", reviews: [said("approved")] }), commits }),
    ).toEqual(["written", "proposed", "read", "on main"]);
  });

  test("open work first, what was given up last, within each the latest", () => {
    const work = (id: string, at: number, of: CodeWork["change"], branchGone = false) =>
      ({ id, at, change: of, branchGone }) as CodeWork;
    const works = [
      work("merged", 9, change({ status: "merged" })),
      work("given up", 9, change({ status: "abandoned" })),
      work("branch", 1, null),
      work("gone", 8, null, true),
      work("old", 1, change()),
      work("new", 2, change()),
    ];
    expect(inOrderOfWork(works).map(({ id }) => id)).toEqual([
      ...["new", "old", "branch", "merged", "given up", "gone"],
    ]);
  });

  test("sizes are added, days are counted as the calendar of the zone has them", () => {
    const size = (files: number) => ({ size: { files, insertions: 2, deletions: 1 } });
    expect(sizeTogether([size(1), { size: null }, size(2)])).toEqual({
      ...{ files: 3, insertions: 4, deletions: 2 },
    });
    expect(sizeTogether([{ size: null }])).toBeNull();
    const at = (day: number, hour: number) => Date.UTC(2026, 10, day, hour);
    expect(daysThere(at(20, 23), "UTC", at(21, 1))).toBe(2);
    // In Helsinki it was the 21st already.
    expect(daysThere(at(20, 23), "Europe/Helsinki", at(21, 1))).toBe(1);
  });
});
