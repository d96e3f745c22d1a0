import { DAY, HOUR } from "@/core/calendar/instant";
import { readReportEvent, REPORT_EVENT } from "@/core/formats/report-event";
import { deskGroups, partsOnDesk, WHOLE_DESK, type DeskFilter } from "@/core/intake/desk-filter";
import { undoneWords } from "@/core/intake/found-report";
import type { ReportStatus } from "@/core/intake/report";
import type { QueueRow } from "@/core/intake/desk-view";
import { letter, tellingOf } from "@/core/intake/letters";
import { workLeft } from "@/core/intake/pace";
import { waitPicture } from "@/core/intake/wait-picture";
import { UNJUDGED } from "@/core/intake/report";
import {
  reproducible,
  reproductionSchema,
  type ReproductionResult,
} from "@/core/intake/reproduction";
import {
  askedDue,
  FIRST_TRIAGE_RULES,
  IMPACTS,
  proposedPriority,
  triageRulesSchema,
  URGENCIES,
} from "@/core/intake/triage-rules";
import { newAcceptance } from "@/core/intake/acceptance";
import { afterVerdict, type Verdict } from "@/core/intake/verdict";
import { PRIORITIES } from "@/core/item/fields";

describe("priority from impact and urgency", () => {
  test("the first grid never falls when more are hit or it is needed sooner, and reaches from low to urgent", () => {
    const rank = (i: number, u: number) =>
      PRIORITIES.indexOf(proposedPriority(FIRST_TRIAGE_RULES.grid, IMPACTS[i], URGENCIES[u]));
    for (let i = 0; i < 4; i++)
      for (let u = 0; u < 4; u++) {
        if (i > 0) expect(rank(i, u)).toBeGreaterThanOrEqual(rank(i - 1, u));
        if (u > 0) expect(rank(i, u)).toBeGreaterThanOrEqual(rank(i, u - 1));
        expect(rank(i, u)).toBe(rank(u, i));
      }
    expect([rank(0, 0), rank(3, 3)]).toEqual([
      PRIORITIES.indexOf("low"),
      PRIORITIES.indexOf("urgent"),
    ]);
  });
  test.each([
    ["an end before its reminder", { remindAfterDays: 5, endAfterDays: 5 }],
    ["a negative time", { remindAfterDays: -1 }],
    ["a question without words", { questions: [{ id: "a", name: "A", text: " " }] }],
    [
      "two questions of one id",
      {
        questions: [
          { id: "a", name: "A", text: "x" },
          { id: "a", name: "B", text: "y" },
        ],
      },
    ],
    ["a grid with a hole", { grid: { ...FIRST_TRIAGE_RULES.grid, everybody: {} } }],
    [
      "a priority that is none",
      {
        grid: {
          ...FIRST_TRIAGE_RULES.grid,
          everybody: { ...FIRST_TRIAGE_RULES.grid.everybody, today: "now!" },
        },
      },
    ],
    ["ending without a word", { endWords: "" }],
  ])("%s is refused", (_name, change) =>
    expect(triageRulesSchema.safeParse({ ...FIRST_TRIAGE_RULES, ...change }).success).toBe(false),
  );
  test("the first rules stand by their own schema", () =>
    expect(triageRulesSchema.parse(FIRST_TRIAGE_RULES)).toEqual(FIRST_TRIAGE_RULES));
});

test.each<[string, number | null, number | null, number | null, number, string]>([
  ["before its day", 4, 14, null, 3.9, "nothing"],
  ["on its day", 4, 14, null, 4, "remind"],
  ["once only", 4, 14, 4, 10, "nothing"],
  ["the end", 4, 14, 4, 14, "end"],
  ["the end, though nobody could remind in between", 4, 14, null, 20, "end"],
  ["never reminded", null, 14, null, 13, "nothing"],
  ["never ended", 4, null, 4, 400, "nothing"],
])("an unanswered question: %s", (_name, remindAfterDays, endAfterDays, reminded, days, due) => {
  const asked = Date.UTC(2026, 0, 1);
  expect(
    askedDue(
      { remindAfterDays, endAfterDays },
      asked,
      reminded === null ? null : asked + reminded * DAY,
      asked + days * DAY,
    ),
  ).toBe(due);
});

test.each<[string, number[], number, number | null]>([
  ["too few say nothing of a pace", [10, 20, 30, 40], 9, null],
  ["the median times what waits", [10_000, 60_000, 20_000, 30_000, 40_000], 6, 180_000],
  [
    "who was away for an hour did not judge for an hour",
    [20_000, 20_000, 20_000, 20_000, 20_000, 3_600_000],
    3,
    60_000,
  ],
  ["nothing waits", [1_000, 1_000, 1_000, 1_000, 1_000], 0, 0],
])("work left: %s", (_name, took, waiting, left) => expect(workLeft(took, waiting)).toBe(left));

test.each<[ReproductionResult[], string]>([
  [[], "not tried"],
  [["did not happen", "did not happen"], "not reproduced"],
  [["did not happen", "happened sometimes"], "sometimes"],
  [["did not happen", "happened", "did not happen"], "reproduced"],
])("tries %j amount to “%s”", (results, amounts) => expect(reproducible(results)).toBe(amounts));
test("a try says where", () =>
  expect(reproductionSchema.safeParse({ tried: " ", result: "happened" }).success).toBe(false));

describe("what a requester reads", () => {
  const about = {
    projectName: "Ticket app",
    reference: "R-1",
    title: "Gate 4 hums",
    page: "http://localhost/r/abc",
  };
  const told = (verdict: Verdict) => {
    const after = afterVerdict(UNJUDGED, verdict, "item", 0);
    return "refused" in after ? null : tellingOf(verdict, after, 0);
  };
  test("of each verdict; of parking nothing", () => {
    expect(
      told({ kind: "accept", acceptance: newAcceptance("Secret title of the team", "bug") }),
    ).toMatchObject({ kind: "news", text: expect.stringMatching(/^Accepted/) });
    expect(told({ kind: "merge", itemId: "x" })).toMatchObject({
      text: expect.stringMatching(/Others have told us/),
    });
    expect(told({ kind: "ask", question: " Which night? " })).toMatchObject({
      kind: "question",
      text: "Which night?",
    });
    expect(told({ kind: "decline", reason: "It is the town's." })).toMatchObject({
      text: expect.stringMatching(/It is the town's\.$/),
    });
    expect(told({ kind: "park", until: "2026-01-01", itemId: null })).toBeNull();
  });
  test("each letter names the reference and leads to the page; a long title is cut in the subject only", () => {
    const long = { ...about, title: "x".repeat(200) };
    for (const kind of [
      { kind: "receipt", thanks: "We look on Mondays.", hearBy: null },
      { kind: "following" },
      { kind: "question", text: "Q", at: 0 },
      { kind: "reminder", text: "Q", at: 0 },
      { kind: "news", text: "N", at: 0 },
    ] as const) {
      const { subject, body } = letter(kind, long);
      expect(subject).toContain("(R-1)");
      expect(subject.length).toBeLessThan(130);
      expect(subject).not.toMatch(/[\r\n]/);
      expect(body).toContain("http://localhost/r/abc");
    }
    expect(
      letter({ kind: "receipt", thanks: "We look on Mondays.", hearBy: null }, about).body,
    ).toContain("We look on Mondays.");
  });
});

const row = (id: string, change: Partial<QueueRow> = {}): QueueRow => ({
  id,
  reference: id,
  title: id,
  place: "",
  receivedAt: 0,
  returnedAt: null,
  returnedWhy: null,
  hole: false,
  status: "unjudged",
  parkedUntil: null,
  parkedFor: null,
  way: "form",
  teamId: null,
  parts: [],
  version: 1,
  promise: null,
  readers: [],
  ...change,
});
/** Due after so many hours; of working time there may be more or less left than that. */
const promised = (
  standing: "on time" | "at risk" | "missed",
  due: number,
  left = due,
  working = false,
) => ({
  target: "t",
  what: "answer" as const,
  state: { standing, working, used: 0, left: left * HOUR, dueAt: due * HOUR },
});

describe("the desk's list", () => {
  const desk = {
    queue: [
      row("old", { promise: promised("on time", 90, 2, true) }),
      row("mail", { way: "mail", teamId: "quay", parts: ["Gates", "Lamps"] }),
      row("late", { promise: promised("missed", -2) }),
      row("soon", { promise: promised("at risk", 1), returnedAt: 5 }),
      row("later", { promise: promised("on time", 3) }),
    ],
    aside: [
      row("asked", { status: "asked", way: "mail", parts: ["Lamps"] }),
      row("parked", { status: "parked", parkedUntil: "2026-01-01" }),
    ],
  };
  const shown = (change: Partial<DeskFilter>) =>
    deskGroups(desk, { ...WHOLE_DESK, ...change }).map((g) => [g.heading, g.rows.map((r) => r.id)]);
  test.each<[Partial<DeskFilter>, [string | null, string[]][]]>([
    [
      {},
      [
        [null, ["old", "mail", "late", "soon", "later"]],
        ["Put aside: asked or parked", ["asked", "parked"]],
      ],
    ],
    [
      { way: "mail" },
      [
        [null, ["mail"]],
        ["Put aside: asked or parked", ["asked"]],
      ],
    ],
    [{ teamId: "quay" }, [[null, ["mail"]]]],
    [{ part: "Gates" }, [[null, ["mail"]]]],
    [
      { part: "Lamps" },
      [
        [null, ["mail"]],
        ["Put aside: asked or parked", ["asked"]],
      ],
    ],
    [{ part: "Lamps", teamId: "pier" }, []],
    [{ show: "waiting for an answer" }, [[null, ["asked"]]]],
    [{ show: "parked", way: "mail" }, []],
    [{ show: "came back" }, [[null, ["soon"]]]],
    [{ show: "near its promise" }, [[null, ["late", "soon"]]]],
    [
      { show: "near its promise", order: "by promise" },
      [
        ["Promise missed", ["late"]],
        ["Promise at risk", ["soon"]],
      ],
    ],
    [
      { order: "by promise" },
      [
        ["Promise missed", ["late"]],
        ["Promise at risk", ["soon"]],
        ["In time", ["later", "old"]],
        ["No promise", ["mail"]],
        ["Put aside: asked or parked", ["asked", "parked"]],
      ],
    ],
  ])("%j", (filter, groups) => expect(shown(filter)).toEqual(groups));

  test("is narrowed by the parts that come up on it, the most frequent first", () =>
    expect(partsOnDesk(desk)).toEqual([
      ["Lamps", 2],
      ["Gates", 1],
    ]));
});

describe("a report as an event of another program", () => {
  const event = (type: string, data: unknown) => ({
    specversion: "1.0" as const,
    id: "1",
    source: "/gate/4",
    type,
    data,
  });
  test("is read, without control characters; other types are none", () => {
    expect(
      readReportEvent(event(REPORT_EVENT, { title: " Motor is hot\u0007 ", place: "Gate 4" })),
    ).toEqual({ title: "Motor is hot", happened: "", reproduce: "", place: "Gate 4", mail: "" });
    expect(readReportEvent(event("dev.cdevents.change.merged.0.2.0", { title: "x" }))).toBeNull();
  });
  test.each([
    [{}],
    [{ title: " " }],
    [{ title: "\u0007 \u0000" }],
    [{ title: "x", mail: "nobody" }],
    [{ title: "x".repeat(201) }],
    [undefined],
    [{ title: "x", happened: 7 }],
  ])("%j is refused", (data) => expect(() => readReportEvent(event(REPORT_EVENT, data))).toThrow());
});

describe("the picture of what waits", () => {
  const DAY_MS = 24 * HOUR;
  const NOW = 400 * DAY_MS;
  const since = (id: string, days: number, standing?: "on time" | "at risk" | "missed") =>
    row(id, {
      receivedAt: NOW - days * DAY_MS,
      promise: standing ? promised(standing, 1) : null,
    });
  const drawn = (...rows: QueueRow[]) =>
    waitPicture(rows, NOW).map((bar) => [
      bar.fromDays,
      bar.toDays,
      bar.rows.map((r) => r.id).join(" "),
    ]);

  test("nothing waits: there is none", () => expect(drawn()).toEqual([]));

  test("a bar a day, the longest first, days on which nothing came among them", () =>
    expect(drawn(since("old", 3.9), since("new", 0.2), since("yesterday", 1))).toEqual([
      [3, 3, "old"],
      [2, 2, ""],
      [1, 1, "yesterday"],
      [0, 0, "new"],
    ]));

  test("what its promise presses on stands first in a bar, then the oldest", () =>
    expect(
      drawn(
        since("fine", 0.9, "on time"),
        since("none", 0.95),
        since("risk", 0.3, "at risk"),
        since("late", 0.1, "missed"),
        since("later", 0.2, "missed"),
      ),
    ).toEqual([[0, 0, "later late risk none fine"]]));

  test.each([
    [8, 9, 1],
    [9, 5, 2],
    [17, 9, 2],
    [18, 7, 3],
    [365, 9, 41],
  ])("a wait of %i days makes %i bars of %i days", (days, bars, each) => {
    const picture = waitPicture([since("a", days), since("b", 0)], NOW);
    expect(picture).toHaveLength(bars);
    expect(picture.every((bar) => bar.toDays - bar.fromDays + 1 === each)).toBe(true);
    expect(picture[0].rows.map((r) => r.id)).toEqual(["a"]);
    expect(picture.at(-1)!.rows.map((r) => r.id)).toEqual(["b"]);
  });

  test("a report that comes from a clock ahead of ours waits since today", () =>
    expect(drawn(since("ahead", -0.5))).toEqual([[0, 0, "ahead"]]));
});

describe("what undoing did", () => {
  test.each<[ReportStatus, string]>([
    ["unjudged", "R-1 waits again."],
    ["asked", "R-1 waits for an answer again."],
    ["parked", "R-1 is parked again."],
  ])("to one that is %s now", (status, said) => {
    expect(undoneWords([{ reference: "R-1", status }])).toBe(said);
  });
  test("to several", () => {
    const stand = ["R-1", "R-2"].map((reference) => ({ reference, status: "unjudged" as const }));
    expect(undoneWords(stand)).toBe("Undone: R-1, R-2 stand where they stood before.");
  });
});
