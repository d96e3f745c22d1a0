import type { Acceptance } from "@/core/intake/acceptance";
import { decideReport } from "@/core/intake/decide-report";
import {
  FATE_WORDS,
  letter,
  withoutOurWords,
  tellingOf,
  type LetterKind,
} from "@/core/intake/letters";
import { missingForNow, placementOf } from "@/core/intake/placement";
import { UNJUDGED } from "@/core/intake/report";
import type { ReportState } from "@/core/intake/report-history";
import {
  FIRST_MODEL,
  movesBetween,
  orderBy,
  scoreOf,
  scoringModelSchema,
  totalWeightedDelay,
  weightedShortestFirst,
  type Criterion,
  type Scored,
  type ScoringModel,
} from "@/core/intake/scoring";
import {
  serviceTargetSchema,
  targetState,
  targetWords,
  type Promised,
  type TargetState,
} from "@/core/intake/service-target";
import { likenessWords } from "@/core/intake/very-alike";
import { isRefusal } from "@/core/workflow/refusal";

describe("where a bug was found", () => {
  test("says nothing more where nobody says it", () =>
    expect(placementOf(null)).toEqual({
      fields: {},
      under: null,
      retestHours: null,
      cameFrom: null,
      onBoard: false,
    }));

  test("in work: a planned task of that work, with a task for testing it again", () => {
    const found = { where: "in work" as const, itemId: "i", hours: 3, retestHours: 1 };
    expect(placementOf(found)).toEqual({
      fields: {
        origin: "planned",
        classOfService: "standard",
        remainingHours: 3,
        estimate: null,
      },
      under: "i",
      retestHours: 1,
      cameFrom: null,
      onBoard: false,
    });
    expect(placementOf({ ...found, retestHours: 0 }).retestHours).toBeNull();
  });

  test("in finished work: linked to it", () =>
    expect(placementOf({ where: "in finished work", itemId: "i" } as never)).toMatchObject({
      fields: { estimate: null },
      cameFrom: "i",
      under: null,
      onBoard: false,
    }));

  test("to be fixed now: expedite, on top, onto the board; it must say how severe, and whose it is", () => {
    expect(placementOf({ where: "fix now" } as never)).toMatchObject({
      fields: {
        origin: "unplanned",
        classOfService: "expedite",
        estimate: 0,
        place: { at: "top" },
      },
      onBoard: true,
      cameFrom: null,
    });
    const of = (severity: Acceptance["severity"], teamId: string | null) =>
      missingForNow({ severity, teamId });
    expect(of(null, null)).toEqual(["how severe it is", "which team takes it"]);
    expect(of("critical", null)).toEqual(["which team takes it"]);
    expect(of(null, "t")).toEqual(["how severe it is"]);
    expect(of("critical", "t")).toEqual([]);
  });
});

describe("what a request is worth", () => {
  const criterion = (id: string, change: Partial<Criterion> = {}): Criterion => ({
    id,
    name: id,
    scale: 5,
    weight: 1,
    source: "judged",
    ...change,
  });
  const model = (...criteria: Criterion[]): ScoringModel => ({
    criteria,
    valueFieldId: null,
    weeksFieldId: null,
  });
  const request = (change: Partial<Scored> = {}): Scored => ({
    id: "r",
    scores: {},
    votes: 0,
    estimate: null,
    valuePerWeek: null,
    weeks: null,
    ...change,
  });

  test("each criterion by its weight, as a share of its scale; effort counts against it", () => {
    const weighed = model(
      criterion("reach", { weight: 3 }),
      criterion("effort", { weight: -1, scale: 8, source: "estimate" }),
      criterion("votes", { weight: 1, scale: 20, source: "votes" }),
    );
    const { score, parts } = scoreOf(
      weighed,
      request({ scores: { reach: 4 }, estimate: 2, votes: 5 }),
    );
    expect(parts).toEqual([
      { criterionId: "reach", share: 0.8, points: expect.closeTo(48, 9) },
      { criterionId: "effort", share: 0.25, points: 15 },
      { criterionId: "votes", share: 0.25, points: 5 },
    ]);
    expect(score).toBeCloseTo(68, 9);
  });

  test("nothing beyond the scale, and no score before everything that counts is judged", () => {
    const one = model(criterion("reach"));
    expect(scoreOf(one, request({ scores: { reach: 9 } })).score).toBe(100);
    expect(scoreOf(one, request({ scores: { reach: -2 } })).score).toBe(0);
    expect(scoreOf(one, request()).score).toBeNull();
    const idle = model(criterion("reach"), criterion("idle", { weight: 0 }));
    expect(scoreOf(idle, request({ scores: { reach: 5 } }))).toMatchObject({
      score: 100,
      parts: [{ points: 100 }, { share: null, points: 0 }],
    });
    expect(scoreOf(model(), request()).score).toBeNull();
    expect(scoreOf(model(criterion("idle", { weight: 0 })), request()).score).toBeNull();
  });

  test("the cost of delay and what a week loses by size, where they are known", () => {
    const of = (change: Partial<Scored>) => {
      const { costOfDelay, delayByDuration } = scoreOf(model(), request(change));
      return [costOfDelay, delayByDuration];
    };
    expect(of({ valuePerWeek: 400, weeks: 4, estimate: 5 })).toEqual([1_600, 80]);
    expect(of({ valuePerWeek: 400 })).toEqual([null, null]);
    expect(of({ weeks: 4, estimate: 5 })).toEqual([null, null]);
    expect(of({ valuePerWeek: 400, estimate: 0 })).toEqual([null, null]);
  });

  test("rows by a figure, highest first, those without one last in the order they had", () => {
    const row = (id: string, change: Partial<Scored>) => {
      const asked = request({ id, ...change });
      return { request: asked, parts: scoreOf(model(criterion("reach")), asked) };
    };
    const rows = [
      row("none", {}),
      row("low", { scores: { reach: 1 }, votes: 9, valuePerWeek: 10, weeks: 9, estimate: 5 }),
      row("high", { scores: { reach: 5 }, votes: 2, valuePerWeek: 20, weeks: 1, estimate: 2 }),
      row("nothing", {}),
    ];
    const by = (order: Parameters<typeof orderBy>[1]) =>
      orderBy(rows, order).map((r) => r.request.id);
    expect(by("score")).toEqual(["high", "low", "none", "nothing"]);
    expect(by("cost of delay")).toEqual(["low", "high", "none", "nothing"]);
    expect(by("delay by duration")).toEqual(["high", "low", "none", "nothing"]);
    expect(by("votes")).toEqual(["low", "high", "none", "nothing"]);
  });

  test("the shortest weighted job first loses least (Smith 1956); what takes no time goes first", () => {
    const jobs = [
      { id: "a", duration: 4, weight: 2 },
      { id: "b", duration: 1, weight: 3 },
      { id: "c", duration: 0, weight: 0 },
      { id: "d", duration: 2, weight: 1 },
    ];
    const order = weightedShortestFirst(jobs);
    expect(order.map((j) => j.id)).toEqual(["c", "b", "a", "d"]);
    expect(totalWeightedDelay(order)).toBe(3 * 1 + 2 * 5 + 1 * 7);
    expect(totalWeightedDelay([])).toBe(0);
  });

  test("the moves of another order, places counted from 1", () => {
    expect(movesBetween(["a", "b", "c"], ["c", "b", "a", "new"])).toEqual([
      { id: "c", from: 3, to: 1 },
      { id: "a", from: 1, to: 3 },
      { id: "new", from: 0, to: 4 },
    ]);
    expect(movesBetween(["a"], ["a"])).toEqual([]);
  });

  test("a model has names of its own, within its bounds", () => {
    expect(scoringModelSchema.safeParse(FIRST_MODEL).success).toBe(true);
    const wrong = (change: Partial<Criterion>) =>
      scoringModelSchema.safeParse(model(criterion("a", change))).error?.issues[0].message;
    expect(wrong({ name: " " })).toBe("A criterion needs a name.");
    for (const change of [
      { scale: 0 },
      { scale: 1.5 },
      { scale: 1_001 },
      { weight: 101 },
      { weight: -101 },
    ])
      expect(wrong(change)).toBeDefined();
    expect(
      scoringModelSchema.safeParse(model(criterion("a"), criterion("b", { name: "A" }))).error
        ?.issues[0],
    ).toMatchObject({ path: ["criteria"], message: "Two criteria have the same name." });
    const many = (n: number) => model(...Array.from({ length: n }, (_, i) => criterion(`c${i}`)));
    expect(scoringModelSchema.safeParse(many(20)).success).toBe(true);
    expect(scoringModelSchema.safeParse(many(21)).success).toBe(false);
  });
});

describe("a promise", () => {
  const HOUR = 3_600_000;
  const NEVER = { week: Array(7).fill(null), holidays: [] } as never;
  const at = (now: number) => ({ calendar: NEVER, zone: "UTC", now: now * HOUR });
  const promised = (change: Partial<Promised> = {}): Promised => ({
    since: 10 * HOUR,
    metAt: null,
    paused: [],
    ...change,
  });
  const stands = (now: number, change: Partial<Promised> = {}, hours = 8) => {
    const { standing, used, left, dueAt } = targetState(hours, false, promised(change), at(now));
    return [standing, used / HOUR, left / HOUR, dueAt === null ? null : dueAt / HOUR];
  };
  const pause = (from: number, to: number | null) => ({
    from: from * HOUR,
    to: to === null ? null : to * HOUR,
  });

  test.each<[string, ReturnType<typeof stands>, ReturnType<typeof stands>]>([
    ["on time", stands(12), ["on time", 2, 6, 18]],
    ["at risk with a quarter left", stands(16), ["at risk", 6, 2, 18]],
    ["not yet", stands(15.9), ["on time", 5.9, 2.1, 18].map((n) => n) as never],
    ["to the last moment", stands(18), ["at risk", 8, 0, 18]],
    ["missed", stands(19), ["missed", 9, -1, 18]],
    ["kept", stands(30, { metAt: 18 * HOUR }), ["kept", 8, 0, 18]],
    ["met too late", stands(30, { metAt: 20 * HOUR }), ["missed", 10, -2, 18]],
    ["standing still", stands(14, { paused: [pause(12, null)] }), ["paused", 2, 6, null]],
    [
      "missed before it stood still",
      stands(30, { paused: [pause(20, null)] }),
      ["missed", 10, -2, 18],
    ],
    ["after a pause", stands(16, { paused: [pause(11, 13)] }), ["on time", 4, 4, 20]],
    [
      "pauses upon each other",
      stands(16, { paused: [pause(12, 14), pause(11, 13)] }),
      ["on time", 3, 5, 21],
    ],
    ["a pause before it began", stands(12, { paused: [pause(8, 9)] }), ["on time", 2, 6, 18]],
    ["one that reaches into it", stands(14, { paused: [pause(8, 12)] }), ["on time", 2, 6, 20]],
    [
      "a pause that comes too late",
      stands(30, { metAt: 22 * HOUR, paused: [pause(19, 21)] }),
      ["missed", 10, -2, 18],
    ],
    ["one without length", stands(12, { paused: [pause(11, 11)] }), ["on time", 2, 6, 18]],
  ])("%s", (_what, is, expected) => {
    expect(is[0]).toBe(expected[0]);
    for (const i of [1, 2, 3])
      if (expected[i] === null) expect(is[i]).toBeNull();
      else expect(is[i]).toBeCloseTo(expected[i] as number, 6);
  });

  test("in working time nothing runs where nobody works", () =>
    expect(targetState(8, true, promised(), at(100))).toMatchObject({
      standing: "on time",
      working: true,
      used: 0,
      left: 8 * HOUR,
      dueAt: null,
    }));

  test.each<[Partial<TargetState>, string]>([
    [{ standing: "on time", left: 3 * HOUR }, "3 h left"],
    [{ standing: "at risk", left: HOUR / 2 }, "30 min left"],
    [{ standing: "at risk", left: HOUR / 2, working: true }, "30 working min left"],
    [{ standing: "on time", left: 9.95 * HOUR, working: true }, "10 working h left"],
    [{ standing: "on time", left: 9.94 * HOUR, working: true }, "9.9 working h left"],
    [{ standing: "on time", left: 118.6 * HOUR, working: true }, "119 working h left"],
    [{ standing: "on time", left: 47.9 * HOUR }, "47.9 h left"],
    [{ standing: "on time", left: 60 * HOUR }, "2.5 days left"],
    [{ standing: "missed", left: -48 * HOUR }, "missed by 2 days"],
    [{ standing: "kept", left: HOUR }, "kept, 1 h to spare"],
    [{ standing: "paused", left: HOUR }, "stands still, 1 h left"],
  ])("%j reads “%s”", (state, words) =>
    expect(targetWords({ used: 0, dueAt: null, working: false, ...state } as TargetState)).toBe(
      words,
    ),
  );

  test("promises something, the same for everybody, in an order that can be", () => {
    const target = {
      id: "t",
      name: "Bugs",
      condition: { kind: "all", of: [] },
      answerHours: 2,
      resolveHours: 8,
      working: true,
    };
    const wrong = (change: object) =>
      serviceTargetSchema
        .safeParse({ ...target, ...change })
        .error?.issues.map((i) => `${i.path.join(".")}: ${i.message}`);
    expect(wrong({})).toBeUndefined();
    expect(wrong({ resolveHours: 2 })).toBeUndefined();
    expect(wrong({ answerHours: null })).toBeUndefined();
    expect(wrong({ resolveHours: null })).toBeUndefined();
    expect(wrong({ name: " " })).toEqual(["name: A target needs a name."]);
    expect(wrong({ answerHours: null, resolveHours: null })).toEqual([
      "answerHours: A target promises something.",
    ]);
    expect(wrong({ resolveHours: 1 })).toEqual([
      "resolveHours: It cannot be done before it is answered.",
    ]);
    const me = { kind: "compare", fact: "assigneeId", op: "is", value: { who: "me" } };
    expect(wrong({ condition: me })).toEqual([
      "condition: A promise is the same for everybody: it cannot ask who looks (me, my teams).",
    ]);
    const owed = { kind: "compare", fact: "promise", op: "is", value: "missed" };
    expect(wrong({ condition: owed })).toEqual([
      "condition: A promise cannot be made by how promises stand.",
    ]);
    expect(wrong({ answerHours: 0 })).toBeDefined();
    expect(wrong({ resolveHours: 10_001 })).toBeDefined();
  });
});

describe("a letter", () => {
  const about = {
    projectName: "Ticket app",
    reference: "R-TX261",
    title: "Gate refuses",
    page: "http://localhost/r/x",
  };
  const foot =
    "\n\nFollow it here, on a page of your own:\nhttp://localhost/r/x\n\nTicket app, R-TX261";
  test.each<[LetterKind, string, string]>([
    [
      { kind: "receipt", thanks: "", hearBy: null },
      "Received: Gate refuses (R-TX261)",
      "Hello,\n\nthank you, your report “Gate refuses” is here. Its reference is R-TX261.\n\nSomebody will read it soon; the oldest reports are read first. You will hear from us.",
    ],
    [
      { kind: "receipt", thanks: "On Mondays.", hearBy: null },
      "Received: Gate refuses (R-TX261)",
      "Hello,\n\nthank you, your report “Gate refuses” is here. Its reference is R-TX261.\n\nOn Mondays.",
    ],
    [
      { kind: "receipt", thanks: "", hearBy: "Thursday 3 December" },
      "Received: Gate refuses (R-TX261)",
      "Hello,\n\nthank you, your report “Gate refuses” is here. Its reference is R-TX261.\n\nYou will hear from us by Thursday 3 December: whether we take it on, or what we still need to know.",
    ],
    [
      { kind: "following" },
      "You follow: Gate refuses (R-TX261)",
      "Hello,\n\nyou told us that “Gate refuses” happens to you too. You will hear when it is done.",
    ],
    [
      { kind: "question", text: "Which gate?", at: 1 },
      "A question about: Gate refuses (R-TX261)",
      "Hello,\n\nWhich gate?\n\nAnswer this mail, or write your answer on your page. Then we go on with your report.",
    ],
    [
      { kind: "reminder", text: "Still: which gate?", at: 1 },
      "Still a question about: Gate refuses (R-TX261)",
      "Hello,\n\nStill: which gate?\n\nAnswer this mail, or write your answer on your page.",
    ],
    [
      { kind: "news", text: "It is done.", at: 1 },
      "News about: Gate refuses (R-TX261)",
      "Hello,\n\nIt is done.\n\nIf something is not right, answer this mail: it comes back to us with your report.",
    ],
  ])("%j", (told, subject, body) =>
    expect(letter(told, about)).toEqual({ subject, body: `${body}${foot}` }),
  );

  test.each([
    ["Received: Gate refuses (R-TX261)", "Gate refuses"],
    ["Re: Received: Received: Gate refuses (R-TX261)", "Gate refuses"],
    ["Fwd: News about: Gate refuses", "Gate refuses"],
    ["Received a wrong ticket", "Received a wrong ticket"],
    ["Re: Gate refuses", "Re: Gate refuses"],
    ["Received: ", "Received: "],
  ])("%s: our own words are not said twice", (title, rest) =>
    expect(withoutOurWords(title)).toBe(rest),
  );

  test("a long title is shortened in its subject alone", () => {
    const long = { ...about, title: "x".repeat(90) };
    expect(letter({ kind: "following" }, long).subject).toBe(
      `You follow: ${"x".repeat(79)}… (R-TX261)`,
    );
    expect(letter({ kind: "following" }, long).body).toContain("x".repeat(90));
  });

  test("parking is not told; a question is as it was asked", () => {
    const standing = { ...UNJUDGED, declineReason: null };
    expect(tellingOf({ kind: "park" } as never, standing, 5)).toBeNull();
    expect(tellingOf({ kind: "ask", question: " Which? " } as never, standing, 5)).toEqual({
      kind: "question",
      text: "Which?",
      at: 5,
    });
  });

  test("every fate of a mail has its words", () => {
    expect(new Set(Object.values(FATE_WORDS)).size).toBe(Object.keys(FATE_WORDS).length);
  });
});

test.each([
  [0.1, "a little alike"],
  [0.39, "a little alike"],
  [0.4, "alike"],
  [0.79, "alike"],
  [0.8, "very alike"],
])("a likeness of %d is %s", (score, words) => expect(likenessWords(score)).toBe(words));

describe("a command on a report is refused", () => {
  const state: ReportState = { standing: UNJUDGED, returnedAt: null, version: 3, seq: 3 };
  const context = { reportId: "r", at: 1, actorId: "tomas" };
  test.each<[string, Parameters<typeof decideReport>[1], string, string]>([
    [
      "judged by somebody else meanwhile",
      {
        kind: "judge",
        verdictId: "v",
        verdict: { kind: "decline", reason: "x" } as never,
        itemId: null,
        today: 1,
        seenVersion: 2,
      },
      "Somebody else has dealt with this report meanwhile.",
      "Read it again before you judge.",
    ],
    [
      "undoing without a verdict",
      { kind: "undo verdict", verdictId: "v", last: null },
      "This verdict is not the latest one any more.",
      "Look at the report as it is now.",
    ],
    [
      "undoing an earlier one",
      { kind: "undo verdict", verdictId: "v", last: { id: "w" } as never },
      "This verdict is not the latest one any more.",
      "Look at the report as it is now.",
    ],
    [
      "undoing what was answered",
      {
        kind: "undo verdict",
        verdictId: "v",
        last: { id: "v", before: UNJUDGED, after: { ...UNJUDGED, status: "asked" } } as never,
      },
      "The requester has answered meanwhile.",
      "The report is in the queue again; judge it anew.",
    ],
    [
      "taking apart what is not merged",
      { kind: "take apart" },
      "This report is not merged into an item.",
      "Look at the report as it is now.",
    ],
  ])("%s", (_what, command, sentence, help) => {
    const answer = decideReport(state, command, context);
    expect(isRefusal(answer)).toBe(true);
    expect(answer).toMatchObject({ code: "conflict", sentence, help });
  });

  test("what happens to it is told one after the other", () => {
    for (const [command, kinds] of [
      [{ kind: "ask" }, ["asked"]],
      [{ kind: "remind" }, ["reminded"]],
      [{ kind: "answer" }, ["answered"]],
      [{ kind: "follow", followerId: "f" }, ["followed"]],
      [{ kind: "try", tryId: "t" }, ["tried"]],
      [{ kind: "take back try", tryId: "t" }, ["try taken back"]],
    ] as const) {
      const events = decideReport(state, command as never, context);
      expect(Array.isArray(events) && events.map((e) => e.kind)).toEqual(kinds);
      expect(events).toMatchObject([{ ...context, seq: 4 }]);
    }
  });
});
