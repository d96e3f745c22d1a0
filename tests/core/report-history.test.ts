import fc from "fast-check";
import { decideReport, type GivenVerdict, type ReportCommand } from "@/core/intake/decide-report";
import { UNJUDGED, type ReportStanding } from "@/core/intake/report";
import {
  applyReportEvent,
  replayReport,
  standingOf,
  type ReportEvent,
  type ReportState,
} from "@/core/intake/report-history";
import type { Verdict } from "@/core/intake/verdict";
import { isRefusal } from "@/core/workflow/refusal";

const received = (standing: ReportStanding = UNJUDGED): ReportEvent => ({
  kind: "received",
  new: { way: "form", standing: standingOf(standing) },
  reportId: "r",
  seq: 1,
  at: 0,
  actorId: null,
});
const on = (history: readonly ReportEvent[], command: ReportCommand, at = history.length) =>
  decideReport(replayReport(history), command, { reportId: "r", at, actorId: "tomas" });
const judging = (verdict: Verdict, change: object = {}): ReportCommand => ({
  kind: "judge",
  verdictId: "v",
  verdict,
  itemId: null,
  today: 20_000,
  seenVersion: null,
  ...change,
});
const DECLINE: Verdict = { kind: "decline", reason: "It is meant to be so." };
/** The history after a command that is carried out. */
function after(history: readonly ReportEvent[], command: ReportCommand): ReportEvent[] {
  const events = on(history, command);
  if (isRefusal(events)) throw new Error(events.sentence);
  return [...history, ...events];
}

describe("a verdict", () => {
  test("stands, without the words of its reason, and counts as one more version", () => {
    const history = after([received()], judging(DECLINE));
    expect(history[1]).toMatchObject({ kind: "judged", verdict: "decline", actorId: "tomas" });
    expect(JSON.stringify(history)).not.toContain("meant to be");
    expect(replayReport(history)).toEqual({
      standing: { status: "declined", itemId: null, parkedUntil: null, parkedItemId: null },
      returnedAt: null,
      version: 2,
      seq: 2,
    });
  });

  test("is refused to whoever saw another version, and not to a rule that has just looked", () => {
    const history = [received()];
    expect(on(history, judging(DECLINE, { seenVersion: 2 }))).toMatchObject({ code: "conflict" });
    expect(isRefusal(on(history, judging(DECLINE, { seenVersion: 1 })))).toBe(false);
    expect(isRefusal(on(history, judging(DECLINE)))).toBe(false);
  });

  test("is undone to where the report stood, the latest alone, and not once it was answered", () => {
    const park: Verdict = { kind: "park", until: "2999-01-01", itemId: null };
    const parked = after([received()], judging(park, { verdictId: "first" }));
    const standing: ReportStanding = { ...UNJUDGED, status: "parked", parkedUntil: "2999-01-01" };
    const asked = after(parked, judging({ kind: "ask", question: "Where?" }));
    const last: GivenVerdict = {
      id: "v",
      before: standing,
      after: { ...UNJUDGED, status: "asked" },
    };
    const undo = { kind: "undo verdict" as const, verdictId: "v", last };
    expect(replayReport(after(asked, undo)).standing).toEqual(standingOf(standing));
    expect(on(asked, { ...undo, verdictId: "first" })).toMatchObject({ code: "conflict" });
    expect(on(asked, { ...undo, last: null })).toMatchObject({ code: "conflict" });
    expect(on(after(asked, { kind: "answer" }), undo)).toMatchObject({ code: "conflict" });
  });
});

test("an answer brings back what waits for it or was declined, and leaves what has an item", () => {
  for (const [status, back] of [
    ["asked", true],
    ["declined", true],
    ["parked", false],
    ["accepted", false],
    ["unjudged", false],
  ] as const) {
    const history = after([received({ ...UNJUDGED, status })], { kind: "answer" });
    const { standing, returnedAt, version } = replayReport(history);
    expect([status, standing.status, returnedAt, version]).toEqual([
      status,
      back ? "unjudged" : status,
      back ? 1 : null,
      back ? 2 : 1,
    ]);
  }
});

test("only what was merged is taken apart", () => {
  const merged = [received({ ...UNJUDGED, status: "merged", itemId: "i" })];
  expect(replayReport(after(merged, { kind: "take apart" })).standing).toEqual(
    standingOf(UNJUDGED),
  );
  expect(on([received()], { kind: "take apart" })).toMatchObject({ code: "conflict" });
});

test("what is only said or tried about a report changes nobody's view of where it stands", () => {
  let history = [received()];
  for (const command of [
    { kind: "ask" },
    { kind: "remind" },
    { kind: "follow", followerId: "f" },
    { kind: "try", tryId: "t" },
    { kind: "take back try", tryId: "t" },
  ] as const)
    history = after(history, command);
  expect(replayReport(history)).toMatchObject({ version: 1, seq: 6 });
});

const command = fc.oneof(
  fc.constantFrom<ReportCommand>(
    { kind: "take apart" },
    { kind: "answer" },
    { kind: "remind" },
    { kind: "ask" },
    { kind: "return", why: "day reached" },
  ),
  fc.constantFrom<Verdict>(DECLINE, { kind: "merge", itemId: "i" }).map((v) => judging(v)),
);

test("whatever is asked in whatever order, the history is without gaps and leads to the state", () => {
  fc.assert(
    fc.property(fc.array(command, { maxLength: 12 }), (commands) => {
      const history = [received()];
      let state: ReportState = replayReport(history);
      for (const c of commands) {
        const events = decideReport(state, c, { reportId: "r", at: 1, actorId: null });
        if (isRefusal(events)) continue;
        for (const event of events) state = applyReportEvent(state, event);
        history.push(...events);
      }
      expect(history.map((e) => e.seq)).toEqual(history.map((_, i) => i + 1));
      expect(replayReport(history)).toEqual(state);
    }),
  );
});

test("a history that does not begin with the receipt, or has a gap, or none at all is refused", () => {
  const answered: ReportEvent = {
    kind: "answered",
    reportId: "r",
    seq: 3,
    at: 1,
    actorId: null,
  };
  expect(() => replayReport([])).toThrow("without events");
  expect(() => replayReport([answered])).toThrow("does not begin");
  expect(() => replayReport([received(), answered])).toThrow("event 3 after 1");
  expect(() => replayReport([received(), { ...received(), seq: 2 }])).toThrow("received twice");
});
