import { newAcceptance } from "@/core/intake/acceptance";
import { FIRST_FORM } from "@/core/intake/form";
import {
  addressBody,
  formBody,
  importBody,
  knownBody,
  MOST_AT_ONCE,
  quickBody,
  reproductionBody,
  rulesBody,
  undoVerdictBody,
  verdictBody,
  verdictRequest,
  worthBody,
} from "@/core/intake/request";
import { MOST_TARGETS } from "@/core/intake/service-target";
import { refused } from "./setup/refused";

const ITEM = "019b0000-0000-7000-8000-000000000001";
const OTHER = "019b0000-0000-7000-8000-000000000002";
const long = (length: number) => "x".repeat(length);

describe("a verdict", () => {
  const accept = (change: object = {}) => ({
    kind: "accept",
    acceptance: { ...newAcceptance("Gate stays shut", "bug"), ...change },
  });
  const inWork = (change: object = {}) =>
    accept({ found: { where: "in work", itemId: ITEM, hours: 0, retestHours: 0, ...change } });

  test.each([
    ["an acceptance as it begins", accept()],
    ["without a severity", accept({ severity: null })],
    ["on top", accept({ place: { at: "top" } })],
    ["below another item", accept({ place: { at: "below", itemId: ITEM } })],
    ["for a team, a person, a sprint and a release", accept({ teamId: "t", assigneeId: "p" })],
    ["into a sprint and a release", accept({ sprintId: "s", releaseId: "r" })],
    ["weighed", accept({ impact: "many people", urgency: "this week" })],
    ["an area of 200", accept({ area: long(200) })],
    ["found in work, of hours from none to 1,000", inWork({ hours: 1_000, retestHours: 1_000 })],
    ["found in finished work", accept({ found: { where: "in finished work", itemId: ITEM } })],
    ["found nobody knows where", accept({ found: { where: "in finished work", itemId: null } })],
    ["to be fixed now", accept({ found: { where: "fix now" } })],
    ["merged", { kind: "merge", itemId: ITEM }],
    ["a question", { kind: "ask", question: long(5_000) }],
    ["parked until a day", { kind: "park", until: "2026-11-28", itemId: null }],
    ["parked until an item is done", { kind: "park", until: null, itemId: ITEM }],
    ["declined", { kind: "decline", reason: long(2_000) }],
  ])("%s is understood", (_what, body) => expect(verdictRequest.parse(body)).toEqual(body));

  test("what an older page does not send is as it begins", () => {
    const { title, typeId, severity, priority, classOfService, origin, place } = newAcceptance(
      "Gate stays shut",
      "bug",
    );
    const least = { title, typeId, severity, priority, classOfService, origin, place };
    const sent = { kind: "accept", acceptance: { ...least, teamId: null, assigneeId: null } };
    expect(verdictRequest.parse(sent)).toEqual(accept());
    const parked = { kind: "park", until: "2026-11-28" };
    expect(verdictRequest.parse(parked)).toEqual({ ...parked, itemId: null });
  });

  test("blanks around words are none of them", () => {
    const asked = verdictRequest.parse({ kind: "ask", question: "  Which boat? " });
    expect(asked).toEqual({ kind: "ask", question: "Which boat?" });
    const declined = verdictRequest.parse({ kind: "decline", reason: " Works. " });
    expect(declined).toEqual({ kind: "decline", reason: "Works." });
    expect(verdictRequest.parse(accept({ area: " Quay 2 " }))).toEqual(accept({ area: "Quay 2" }));
  });

  test.each([
    ["an item without a name", accept({ title: " " }), /./],
    ["a type without an id", accept({ typeId: "" }), /./],
    ["an id of 65", accept({ typeId: long(65) }), /./],
    ["a severity that is none", accept({ severity: "dreadful" }), /./],
    ["a place that is none", accept({ place: { at: "middle" } }), /./],
    ["below nothing", accept({ place: { at: "below" } }), /./],
    ["an area of 201", accept({ area: long(201) }), /./],
    ["found in no item", inWork({ itemId: "x" }), /^Choose the item it was found in\.$/],
    ["hours below none", inWork({ hours: -1 }), /./],
    ["hours beyond 1,000", inWork({ hours: 1_001 }), /./],
    ["a retest below none", inWork({ retestHours: -1 }), /./],
    ["a retest beyond 1,000", inWork({ retestHours: 1_001 }), /./],
    ["merged into nothing", { kind: "merge", itemId: "TIX-1" }, /./],
    ["no question", { kind: "ask", question: " " }, /^Write what you need to know\.$/],
    ["a question of 5,001", { kind: "ask", question: long(5_001) }, /./],
    ["no day", { kind: "park", until: "soon" }, /^Choose the day on which to look at it again\.$/],
    ["no item", { kind: "park", until: null, itemId: "x" }, /^Choose the item to wait for\.$/],
    ["no reason", { kind: "decline", reason: " " }, /^The requester reads this reason\.$/],
    ["a reason of 2,001", { kind: "decline", reason: long(2_001) }, /./],
    ["another kind", { kind: "burn" }, /./],
  ])("%s is refused", (_what, body, says) =>
    expect(refused(verdictRequest, body).join()).toMatch(says),
  );

  const body = (change: object = {}) => ({
    commandId: ITEM,
    seenVersion: 1,
    verdict: { kind: "merge", itemId: OTHER },
    tookMs: null,
    ...change,
  });
  test.each([{}, { tookMs: 0 }, { tookMs: 86_400_000 }, { seenVersion: 9 }])(
    "is sent with %j",
    (change) => expect(verdictBody.parse(body(change))).toEqual(body(change)),
  );
  test.each([
    { commandId: "x" },
    { seenVersion: 0 },
    { seenVersion: 1.5 },
    { tookMs: -1 },
    { tookMs: 86_400_001 },
    { tookMs: 0.5 },
  ])("is not sent with %j", (change) => expect(refused(verdictBody, body(change))).toHaveLength(1));
  test("need not say how long it took", () => {
    const { tookMs: _, ...short } = body();
    expect(verdictBody.parse(short)).toEqual(body());
  });
  test("is undone by its id", () => {
    expect(undoVerdictBody.parse({ verdictId: ITEM })).toEqual({ verdictId: ITEM });
    expect(refused(undoVerdictBody, { verdictId: "last" })).toHaveLength(1);
  });
});

describe("an address for mail", () => {
  test("is of small letters, and loses blanks", () =>
    expect(addressBody.parse({ kind: "add", name: " Lost-Things.2 ", teamId: null })).toEqual({
      kind: "add",
      name: "lost-things.2",
      teamId: null,
    }));
  test.each(["a", "7", `a${long(62)}`])("may be %s", (name) =>
    expect(refused(addressBody, { kind: "remove", name })).toEqual([]),
  );
  test.each(["", "-a", ".a", "a b", "a@b", "å", `a${long(63)}`])("is not “%s”", (name) =>
    expect(refused(addressBody, { kind: "remove", name })).toEqual([
      "An address begins with a letter or figure and has only letters, figures, dots and dashes.",
    ]),
  );
  test("is changed in its team, or opened and closed", () => {
    const change = { kind: "change", name: "help" };
    for (const more of [{}, { teamId: null }, { teamId: long(64) }, { open: false }])
      expect(addressBody.parse({ ...change, ...more })).toEqual({ ...change, ...more });
    expect(refused(addressBody, { ...change, teamId: long(65) })).toHaveLength(1);
    expect(refused(addressBody, { kind: "add", name: "help", teamId: long(65) })).toHaveLength(1);
  });
});

describe("a known problem", () => {
  test("is told in words for people outside, or not any more", () => {
    expect(knownBody.parse({ words: "  The gate sticks. " })).toEqual({
      words: "The gate sticks.",
    });
    expect(knownBody.parse({ words: null })).toEqual({ words: null });
    expect(knownBody.parse({ words: long(200) })).toEqual({ words: long(200) });
  });
  test("is not told in none, or in too many", () => {
    expect(refused(knownBody, { words: " " })).toEqual([
      "Say in words for people outside what is wrong.",
    ]);
    expect(refused(knownBody, { words: long(201) })).toHaveLength(1);
  });
});

describe("what requests are worth", () => {
  const reorder = (seen: string[], wanted = seen) => ({
    kind: "reorder",
    commandId: ITEM,
    seen,
    wanted,
  });
  test.each([
    { kind: "score", itemId: ITEM, scores: { reach: 0, effort: 1_000 } },
    reorder([]),
    reorder(Array(5_000).fill(OTHER)),
  ])("%#: is understood", (body) => expect(worthBody.parse(body)).toEqual(body));
  test.each([
    { kind: "score", itemId: "x", scores: {} },
    { kind: "score", itemId: ITEM, scores: { reach: -1 } },
    { kind: "score", itemId: ITEM, scores: { reach: 1_001 } },
    { kind: "score", itemId: ITEM, scores: { [long(65)]: 1 } },
    reorder(["x"], []),
    reorder([], ["x"]),
    reorder(Array(5_001).fill(OTHER), []),
    reorder([], Array(5_001).fill(OTHER)),
  ])("%#: is refused", (body) => expect(refused(worthBody, body)).toHaveLength(1));
});

describe("reports from a table", () => {
  const report = {
    title: "Lamp out",
    happened: "",
    reproduce: "",
    place: "",
    mail: "",
    receivedOn: "2026-11-23",
  };
  const part = (change: object = {}) => ({
    kind: "import",
    importId: ITEM,
    part: 0,
    reports: [report],
    ...change,
  });
  test.each([
    part(),
    part({ part: 100 }),
    part({ reports: Array(MOST_AT_ONCE).fill(report) }),
    { kind: "take back", importId: ITEM },
  ])("%#: are understood", (body) => expect(importBody.parse(body)).toEqual(body));
  test.each([
    part({ part: -1 }),
    part({ part: 101 }),
    part({ part: 0.5 }),
    part({ reports: [] }),
    part({ reports: Array(MOST_AT_ONCE + 1).fill(report) }),
    part({ reports: [{ ...report, receivedOn: "23.11.2026" }] }),
    part({ reports: [{ ...report, mail: "nobody" }] }),
    { kind: "take back", importId: "x" },
  ])("%#: are refused", (body) => expect(refused(importBody, body)).toHaveLength(1));
});

describe("a report in passing", () => {
  test("needs a few words and nothing else", () =>
    expect(quickBody.parse({ title: " Gate stuck " })).toEqual({
      title: "Gate stuck",
      happened: "",
      itemKey: null,
      caller: "",
    }));
  test("is refused where who called has no mail address", () =>
    expect(refused(quickBody, { title: "x", caller: "nobody" })).toEqual([
      "This is no mail address we could write to.",
    ]));
  test("is refused without words", () =>
    expect(refused(quickBody, { title: " " })).toEqual(["Say in a few words what is wrong."]));
  test.each([
    { title: long(201) },
    { title: "x", happened: long(10_001) },
    { title: "x", itemKey: long(31) },
  ])("%#: is refused with too many", (body) => expect(refused(quickBody, body)).toHaveLength(1));
});

describe("rules and forms", () => {
  test("only what is sent of the rules is changed", () => {
    expect(rulesBody.parse({ seenVersion: 0 })).toEqual({ seenVersion: 0 });
    expect(refused(rulesBody, { seenVersion: -1 })).toHaveLength(1);
    expect(refused(rulesBody, { seenVersion: 0.5 })).toHaveLength(1);
  });
  test("there are not too many promises", () =>
    expect(refused(rulesBody, { seenVersion: 0, targets: Array(MOST_TARGETS + 1) })).toContain(
      `A project has at most ${MOST_TARGETS} targets.`,
    ));
  test("a new form asks what most reports need", () =>
    expect(formBody.parse({ kind: "add", slug: "lost-things" })).toEqual({
      kind: "add",
      slug: "lost-things",
      definition: FIRST_FORM,
    }));
  test.each(["a", "7", `a${long(39)}`])("a form may stand at %s", (slug) =>
    expect(refused(formBody, { kind: "add", slug })).toEqual([]),
  );
  test.each(["", "-a", "A", "a.b", `a${long(40)}`])("a form does not stand at “%s”", (slug) =>
    expect(refused(formBody, { kind: "add", slug })).toEqual([
      "An address is of small letters, digits and dashes.",
    ]),
  );
  test.each([
    { kind: "change", id: ITEM, seenVersion: 1 },
    { kind: "change", id: ITEM, seenVersion: 1, slug: "a", open: true, embeddable: false },
    { kind: "remove", id: ITEM },
    { kind: "bring back", id: ITEM },
  ])("%#: a form is changed, taken out and brought back", (body) =>
    expect(formBody.parse(body)).toEqual(body),
  );
  test.each([
    { kind: "change", id: ITEM, seenVersion: 0 },
    { kind: "change", id: "x", seenVersion: 1 },
    { kind: "remove", id: "x" },
    { kind: "bring back", id: "x" },
  ])("%#: a form is not", (body) => expect(refused(formBody, body)).toHaveLength(1));
  test("what was tried is taken back by its id", () => {
    const body = { kind: "take back", id: ITEM };
    expect(reproductionBody.parse(body)).toEqual(body);
    expect(refused(reproductionBody, { ...body, id: "x" })).toHaveLength(1);
  });
});
