import { statusForRequester, UNJUDGED, type ReportStanding } from "@/core/intake/report";
import { meaningOf, nearness } from "@/core/intake/meaning";
import { OPPOSITES, opposites } from "@/core/intake/opposite";
import { SAME_MEANING } from "@/core/intake/same-meaning";
import { mostSimilar } from "@/core/intake/similarity";
import { stem } from "@/core/intake/stem";
import { grams, words } from "@/core/intake/text-words";
import { learnRelations } from "@/core/intake/word-relations";
import { newAcceptance } from "@/core/intake/acceptance";
import { afterVerdict, type Verdict } from "@/core/intake/verdict";
import { ACTIONS, MAY, may, roleIn, roleOutside, ROLES } from "@/core/people/authorise";
import { UNJUDGED_REPORTS } from "@demo/words/reports";

const acceptance = newAcceptance("x", "bug");
const TODAY = 20_000;

describe("verdicts", () => {
  test.each<[Verdict, string | null, Partial<ReportStanding>]>([
    [{ kind: "accept", acceptance }, "item", { status: "accepted", itemId: "item" }],
    [{ kind: "merge", itemId: "item" }, "item", { status: "merged", itemId: "item" }],
    [{ kind: "ask", question: "Which boat?" }, null, { status: "asked", itemId: null }],
    [
      { kind: "park", until: "2024-10-06", itemId: null },
      null,
      { status: "parked", parkedUntil: "2024-10-06" },
    ],
    [
      { kind: "park", until: null, itemId: "other" },
      null,
      { status: "parked", parkedUntil: null, parkedItemId: "other", itemId: null },
    ],
    [
      { kind: "decline", reason: " A rule of the harbour. " },
      null,
      { status: "declined", declineReason: "A rule of the harbour." },
    ],
  ])("%j", (verdict, itemId, after) => {
    expect(afterVerdict(UNJUDGED, verdict, itemId, TODAY)).toMatchObject(after);
    expect(
      afterVerdict(
        { ...UNJUDGED, status: "declined", declineReason: "no" },
        verdict,
        itemId,
        TODAY,
      ),
    ).toMatchObject({ refused: true, code: "conflict" });
  });
  const refused: Verdict[] = [
    { kind: "park", until: "2024-10-04", itemId: null },
    { kind: "park", until: "soon", itemId: null },
    { kind: "park", until: null, itemId: null },
    { kind: "park", until: "2024-10-06", itemId: "item" },
    { kind: "ask", question: "  " },
    { kind: "decline", reason: "" },
  ];
  test.each(refused)("refused: %j", (verdict) =>
    expect(afterVerdict(UNJUDGED, verdict, null, TODAY)).toMatchObject({
      refused: true,
      code: "invalid",
    }),
  );
});

test("the requester is told in words for every standing, and never anything internal", () => {
  const item = (
    stateKind: "unstarted" | "waiting" | "working" | "finished",
    outcome: "delivered" | "duplicate" | null = null,
  ) => ({ stateKind, stage: "Test", outcome });
  const accepted: ReportStanding = { ...UNJUDGED, status: "accepted", itemId: "i" };
  expect(statusForRequester(UNJUDGED, null).headline).toBe("Received");
  expect(statusForRequester(accepted, item("unstarted")).headline).toBe("Accepted");
  expect(statusForRequester(accepted, item("working"))).toEqual({
    headline: "Being worked on",
    detail: "It has reached this step: Test.",
  });
  const planned = { today: "2026-12-01", goesOutOn: "2026-12-05" };
  expect(statusForRequester(accepted, item("working"), planned).detail).toBe(
    "It has reached this step: Test. We plan to have it out on Saturday 5 December.",
  );
  expect(statusForRequester(accepted, item("finished", "delivered"), planned).detail).not.toContain(
    "plan",
  );
  expect(statusForRequester(accepted, item("finished", "delivered")).headline).toBe("Done");
  const days = { today: "2026-12-01", hearBy: "2026-12-03", finishedOn: "2026-11-20" };
  expect(statusForRequester(UNJUDGED, null, days).detail).toBe(
    "You will hear from us by Thursday 3 December.",
  );
  expect(statusForRequester(accepted, item("finished", "delivered"), days).detail).toBe(
    "It is live since Friday 20 November. Tell us if it is still not right.",
  );
  expect(
    statusForRequester(accepted, { ...item("finished"), outcome: "cannot reproduce" }, days)
      .headline,
  ).toBe("We could not make it happen yet");
  expect(statusForRequester(accepted, item("finished", "duplicate")).headline).toBe("Closed");
  expect(statusForRequester({ ...accepted, status: "merged" }, item("waiting")).detail).toContain(
    "Others have told us",
  );
  expect(
    statusForRequester({ ...UNJUDGED, status: "parked", parkedUntil: "2026-12-01" }, null).detail,
  ).toContain("Tuesday 1 December 2026");
  expect(
    statusForRequester({ ...UNJUDGED, status: "declined", declineReason: "Because." }, null).detail,
  ).toBe("Because.");
});

describe("similarity", () => {
  test.each([
    ["scanners", "scanner"],
    ["tickets", "ticket"],
    ["refuses", "refused"],
    ["stopped", "stopping"],
    ["ferries", "ferry"],
    ["charges", "charged"],
    ["disappears", "disappeared"],
  ])("%s and %s have one stem", (a, b) => expect(stem(a)).toBe(stem(b)));

  const reports = UNJUDGED_REPORTS.map((r, i) => ({
    id: String(i),
    title: r.title,
    body: `${r.happened} ${r.place}`,
    project: r.project,
  }));
  test.each([
    [
      "My ticket was not accepted at Gannet quay although I had paid",
      "Scanner at Gannet refuses tickets bought without a network",
    ],
    ["I was charged twice for one season ticket", "Payment taken two times for the season card"],
    [
      "Scanner glass is wet inside every morning",
      "Fogged scanners hold up the early boat at Curlew",
    ],
  ])("the demo's near-duplicate is found: %s", (one, other) => {
    for (const [a, b] of [
      [one, other],
      [other, one],
    ]) {
      const report = reports.find((r) => r.title === a)!;
      const [best] = mostSimilar(
        report,
        reports.filter((r) => r !== report && r.project === report.project),
        1,
      );
      expect(reports[Number(best.id)].title).toBe(b);
      expect(best.reasons.length).toBeGreaterThan(0);
    }
  });
  test("the same words are wholly alike, no common word is nothing alike, order of candidates does not matter", () => {
    const text = { id: "a", title: "Gate stays open", body: "" };
    expect(
      mostSimilar(
        text,
        [
          { ...text, id: "b" },
          { id: "c", title: "Price of a bicycle", body: "" },
        ],
        5,
      ),
    ).toMatchObject([{ id: "b", score: expect.closeTo(1, 10) }]);
    const forward = mostSimilar(reports[0], reports.slice(1), 5);
    expect(mostSimilar(reports[0], reports.slice(1).reverse(), 5)).toEqual(forward);
  });
  test("each word of the same-meaning list is matched, and stands in one group only", () => {
    const groups = SAME_MEANING.map((g) => g.split(" "));
    const homes = new Map<string, Set<number>>();
    for (const [i, group] of groups.entries())
      for (const word of group) homes.set(stem(word), (homes.get(stem(word)) ?? new Set()).add(i));
    expect([...homes].filter(([, in_]) => in_.size > 1)).toEqual([]);
    for (const group of groups)
      expect([
        group,
        new Set(group.flatMap((w) => words(w).map((x) => x.stem))).size,
        group.flatMap(words).length,
      ]).toEqual([group, 1, group.length]);
  });
  test("each word of the list of opposites tells its side", () => {
    for (const pair of OPPOSITES) {
      const [left, right] = pair.split("|").map((side) => side.split(" "));
      for (const a of left)
        for (const b of right)
          expect(opposites(new Set([stem(a)]), new Set([stem(b)]))).toBeGreaterThan(0);
    }
  });
  test("words written nearly alike meet by their letters, rare ones weigh more than common ones", () => {
    expect(grams("quay")).toEqual(["_qua", "quay", "uay_"]);
    const candidate = (id: string, title: string) => ({ id, title, body: "" });
    const typo = mostSimilar(
      candidate("", "Turnstile squeals"),
      [candidate("a", "Turnstyle squeaks"), candidate("b", "Lamp is dark")],
      2,
      { least: 0.01 },
    );
    expect(typo.map((s) => s.id)).toEqual(["a"]);
    const many = ["ticket of Anna", "ticket of Bo", "ticket of Cai", "ticket lost"].map((t, i) =>
      candidate(`t${i}`, t),
    );
    expect(
      mostSimilar(
        candidate("", "ticket with a moth"),
        [...many, candidate("moth", "moth in the lamp")],
        1,
      )[0].id,
    ).toBe("moth");
  });
  test("what a project merged teaches it which words stand for which, once it has seen it more than once", () => {
    const pair = (one: string, other: string) =>
      [
        { title: one, body: "" },
        { title: other, body: "" },
      ] as const;
    const merged = [
      pair("gangway jammed", "brow stuck"),
      pair("gangway slippery", "brow icy"),
      pair("gangway gone", "brow away"),
      pair("lamp off", "lantern off"),
    ];
    const relations = learnRelations(merged);
    expect(relations.get(stem("gangway"))?.get("brow")).toBe(1);
    expect(relations.get("brow")?.get(stem("gangway"))).toBe(1);
    // Once may be chance.
    expect(relations.get("lamp")).toBeUndefined();
    const text = { id: "", title: "gangway blocked", body: "" };
    const candidates = [
      { id: "a", title: "brow crooked", body: "" },
      { id: "b", title: "oven cold", body: "" },
    ];
    expect(mostSimilar(text, candidates, 5)).toEqual([]);
    expect(mostSimilar(text, candidates, 5, { relations }).map((s) => s.id)).toEqual(["a"]);
  });
  test("near meanings bring texts together that share no word; without them only words count", () => {
    const [one, near, far] = [meaningOf([3, 4, 0]), meaningOf([4, 3, 0]), meaningOf([0, 0, 1])];
    expect(nearness(one, one)).toBeCloseTo(1, 12);
    // The rounding to bytes costs less than a hundredth.
    expect(Math.abs(nearness(one, near) - 24 / 25)).toBeLessThan(0.01);
    expect(nearness(one, far)).toBe(0);
    expect(() => meaningOf([0, 0])).toThrow(RangeError);
    const text = { id: "", title: "elevator halts", body: "" };
    const found = (meanings: boolean) =>
      mostSimilar(
        { ...text, meaning: one },
        [
          { id: "a", title: "lift stops", body: "", meaning: meanings ? near : null },
          { id: "b", title: "oven cold", body: "", meaning: far },
        ],
        5,
      ).map((s) => [s.id, ...s.reasons]);
    expect([found(true), found(false)]).toEqual([[["a", "means much the same"]], []]);
  });
  test("of a text only the beginning is compared, so that no length of log makes the desk slow", () => {
    expect(words("gate ".repeat(100_000)).length).toBeLessThan(500);
    expect(words(`${"🚢".repeat(3_000)} gate`)).toEqual([]);
  });
  test("empty and odd texts do no harm", () => {
    expect(mostSimilar({ id: "a", title: "", body: "" }, reports, 5)).toEqual([]);
    expect(
      mostSimilar(
        { id: "a", title: "<script>", body: "\u0000 ???" },
        [{ id: "b", title: "!!!", body: "" }],
        5,
      ),
    ).toEqual([]);
  });
});

describe("who may do what", () => {
  test("an observer and a requester change nothing of the team's", () => {
    const reading = ["keep view", "read project", "read flow", "send report"];
    expect([...MAY.observer].sort()).toEqual([...reading].sort());
    expect([...MAY.requester].sort()).toEqual(["answer question", "send report"]);
  });
  test("members work, leads also shape the process, administrators may everything", () => {
    expect(ACTIONS.filter((a) => may("lead", a) && !may("member", a))).toEqual([
      "read withdrawn",
      "empty text",
      "close talk",
      "override limit",
      "read time of others",
      "edit workflow",
      "edit board",
      "edit members",
      "put away project",
      "answer question",
    ]);
    expect(ACTIONS.every((a) => may("administrator", a))).toBe(true);
    expect(ACTIONS.some((a) => may(null, a))).toBe(false);
  });
  test("outside any project one stands as where one may do most; who only looks on starts nothing", () => {
    const plain = { administrator: false };
    expect(roleOutside({ administrator: true }, [])).toBe("administrator");
    expect(roleOutside(plain, ["observer", "member", "lead"])).toBe("lead");
    expect(roleOutside(plain, ["observer", "member"])).toBe("member");
    for (const memberships of [[], ["observer"]] as const)
      expect(may(roleOutside(plain, memberships), "start project")).toBe(false);
  });
  test("role by membership, visibility and administration", () => {
    const plain = { administrator: false };
    expect(roleIn(plain, null, "members")).toBeNull();
    expect(roleIn(plain, null, "everyone")).toBe("observer");
    for (const role of ["lead", "member", "observer"] as const)
      expect(roleIn(plain, role, "members")).toBe(role);
    expect(roleIn({ administrator: true }, null, "members")).toBe("administrator");
    expect(ROLES).toHaveLength(5);
  });
});
