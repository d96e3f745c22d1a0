import fc from "fast-check";
import { staleOf, testedOf, type CaseTried } from "@/core/ship/testing/case-standing";
import { readJunit } from "@/core/ship/testing/junit";
import { lastWithout, showsThatMissing } from "@/core/ship/testing/known-test";
import { caseOfMachine, changesOfMind, type KeptResult } from "@/core/ship/testing/machine-test";
import { endOfRun, findingTitle, type Failure } from "@/core/ship/testing/run-end";
import { stepResultBody, type StepResult } from "@/core/ship/testing/step-result";
import { caseBody, caseChange, caseNamed, stepsOfCriteria } from "@/core/ship/testing/test-case";
import { progressOf, progressWords, verdictOf } from "@/core/ship/testing/verdict";
import { suspectsOf, type MergedWork } from "@/core/ship/testing/whose-is-it";
import { readTestEvent } from "@/core/ship/test-event";

const uuid = (n: number) => `0198f3c0-0000-7000-8000-${String(n).padStart(12, "0")}`;

describe("what steps come to", () => {
  test.each<[(StepResult | null)[], string | null]>([
    [["passed", "passed"], "passed"],
    [["passed", null], null],
    [["passed", "failed", null], "failed"],
    [["blocked", "failed"], "failed"],
    [["blocked", "passed"], "blocked"],
    [[], null],
  ])("%j is %s", (results, verdict) => expect(verdictOf(results)).toBe(verdict));

  test("passed only where every one is, whatever their order", () => {
    const one = fc.constantFrom<StepResult | null>("passed", "failed", "blocked", null);
    fc.assert(
      fc.property(fc.array(one, { minLength: 1 }), (results) => {
        const all = results.every((result) => result === "passed");
        expect(verdictOf(results) === "passed").toBe(all);
        expect(verdictOf(results.toReversed())).toBe(verdictOf(results));
        const { passed, failed, blocked, left, of } = progressOf(results);
        expect(passed + failed + blocked + left).toBe(of);
      }),
    );
  });

  test("is told without what there is none of", () => {
    expect(progressWords(progressOf(["passed", "failed", null, null]))).toBe(
      "1 passed, 1 failed, 2 left",
    );
  });

  test("what failed or could not be tried says why", () => {
    const said = (result: StepResult, note: string) =>
      stepResultBody.safeParse({ caseId: uuid(1), stepId: uuid(2), result, note }).success;
    expect([
      said("passed", ""),
      said("failed", " "),
      said("blocked", ""),
      said("failed", "x"),
    ]).toEqual([true, false, false, true]);
  });
});

describe("how well an item is tested", () => {
  const tried = (
    verdict: "passed" | "failed" | "blocked" | null,
    stale: CaseTried["stale"] = null,
  ): CaseTried => ({ last: verdict === null ? null : { verdict }, stale });
  test.each<[CaseTried[], string]>([
    [[], "no case"],
    [[tried("passed"), tried("failed", "rewritten")], "failed"],
    [[tried("passed"), tried("blocked")], "blocked"],
    [[tried("passed"), tried(null)], "not tried"],
    [[tried("passed"), tried("passed", "changed")], "stale"],
    [[tried("passed")], "passed"],
  ])("%# %s", (cases, tested) => expect(testedOf(cases)).toBe(tested));

  test("a pass holds until the case is rewritten or more of the item is deployed", () => {
    const last = { version: 2, startedAt: 100 };
    expect(staleOf(last, { current: 2, changedAt: 100 })).toBeNull();
    expect(staleOf(last, { current: 2, changedAt: 101 })).toBe("changed");
    expect(staleOf(last, { current: 3, changedAt: null })).toBe("rewritten");
  });
});

describe("a case", () => {
  const body = (steps: object[]) =>
    caseBody.safeParse({
      ...{ id: uuid(1), seenVersion: null, part: null, suiteId: null, title: "T", before: "" },
      steps,
    });
  const step = { id: uuid(2), action: "", expected: "It is open." };

  test("needs a step that says something, each once", () => {
    expect(body([step]).success).toBe(true);
    expect(body([]).success).toBe(false);
    expect(body([{ ...step, expected: " " }]).success).toBe(false);
    expect(body([step, step]).success).toBe(false);
  });

  test.each([
    ["TIX-T88", { projectKey: "TIX", number: 88 }],
    ["checks tix_t4 at night", { projectKey: "TIX", number: 4 }],
    ["GATE-T2: battery", { projectKey: "GATE", number: 2 }],
    ["TIX-88", null],
    ["TIX-T", null],
    ["nothing", null],
    ["TIX-T12345678", null],
  ])("is named in %s", (text, named) => expect(caseNamed(text)).toEqual(named));

  test("is written from what is wanted, and tells what is different", () => {
    let n = 10;
    const steps = stepsOfCriteria([{ id: "a", text: "It opens." }], () => uuid(n++));
    expect(steps).toEqual([{ id: uuid(10), action: "", expected: "It opens." }]);
    const before = { title: "T", before: "", steps: [step, { ...step, id: uuid(3) }] };
    const after = { ...before, steps: [{ ...step, expected: "It is shut." }, ...steps] };
    expect(caseChange(before, after)).toBe("rewrote step 1, added 1 step, took out 1 step");
    expect(caseChange(before, { ...before, steps: before.steps.toReversed() })).toBe(
      "changed the order",
    );
  });
});

describe("the end of a run", () => {
  const failure = (more: Partial<Failure>): Failure => ({
    ...{ caseId: "c", caseKey: "TIX-T8", caseTitle: "Gate", number: 4, note: "It stayed open." },
    ...{ step: { id: "s", action: "Go", expected: "It shuts." } },
    ...{ course: null, givenTo: null, itemId: "built", ...more },
  });
  const items = [
    { id: "built", stateKind: "working" as const },
    { id: "done", stateKind: "finished" as const },
  ];

  test("makes a task of what belongs to work, a bug of everything else", () => {
    const { findings, returns } = endOfRun(
      [
        failure({}),
        failure({ number: 5, note: "It beeped." }),
        failure({ course: "was there before" }),
        failure({ course: "mend now" }),
        failure({ itemId: "done", course: "belongs to it" }),
        failure({ itemId: null }),
      ],
      items,
      "Test run 7",
    );
    expect(
      findings.map((one) => (one.kind === "task" ? one.under : [one.foundIn, one.expedite])),
    ).toEqual([
      "built",
      "built",
      ["built", false],
      ["built", true],
      ["done", false],
      [null, false],
    ]);
    // Once, with all its reasons; finished work stays.
    expect(returns).toEqual([
      {
        itemId: "built",
        reason:
          "Test run 7 failed.\nStep 4 of TIX-T8: It stayed open. (expected: It shuts.)\n" +
          "Step 5 of TIX-T8: It beeped. (expected: It shuts.)",
      },
    ]);
  });

  test("a title holds what was seen and where, whatever was written", () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1, maxLength: 4_000 }), (note) => {
        const title = findingTitle(failure({ note }));
        expect(title.length).toBeLessThanOrEqual(300);
        expect(title.endsWith("(step 4 of TIX-T8)")).toBe(true);
      }),
    );
  });
});

describe("what machines find", () => {
  const at = (commit: string, when: number, result: KeptResult["result"]): KeptResult => ({
    ...{ commit, at: when, result },
  });

  test("a change of mind is one on the same commit, in the order of time", () => {
    expect(changesOfMind([at("a", 1, "passed"), at("b", 2, "failed")])).toBe(0);
    expect(changesOfMind([at("a", 3, "passed"), at("a", 1, "passed"), at("a", 2, "failed")])).toBe(
      2,
    );
    expect(changesOfMind([at("a", 1, "passed"), at("a", 2, "skipped")])).toBe(0);
  });

  test("is matched by key before title, and by a title only where one has it", () => {
    const known = (number: number, title: string) => ({
      ...{ id: `c${number}`, projectKey: "TIX", number, title },
    });
    const cases = [known(1, "Sells a seat"), known(2, "Refunds"), known(3, "refunds")];
    const match = (name: string, suite = "") => caseOfMachine({ suite, name }, cases)?.id ?? null;
    expect(match("TIX-T2 sells a seat")).toBe("c2");
    expect(match("sells a seat")).toBe("c1");
    expect(match("anything", "tix-t3")).toBe("c3");
    expect(match("refunds")).toBeNull();
    expect(match("GATE-T1")).toBeNull();
  });

  test("before the work a test counts on main and on the item's branch, not after it came to main", () => {
    const own = new Set(["o"]);
    const onMain = new Set(["m", "later"]);
    const results = [
      at("m", 1, "passed"),
      at("o", 2, "failed"),
      at("x", 3, "passed"),
      at("later", 5, "passed"),
    ];
    expect(lastWithout(results, { own, onMain, changedAt: 4 })).toBe("failed");
    expect(lastWithout(results, { own, onMain, changedAt: null })).toBe("passed");
    expect(lastWithout([], { own, onMain, changedAt: null })).toBeNull();
    const test = { number: 1, title: "T", lastWithout: null };
    expect(showsThatMissing({ ...test, automatic: false })).toBe(true);
    expect(showsThatMissing({ ...test, automatic: true })).toBe(false);
  });
});

describe("results as XML", () => {
  test("what is inside says what came of it, and what has no name is counted", () => {
    const { results, left } = readJunit(`<testsuites><testsuite name="prices">
      <testcase classname="price" name="pays" time="0.0123"/>
      <testcase name="fails"><failure message="no">at line 3</failure></testcase>
      <testcase name="breaks"><error>gone</error></testcase>
      <testcase name="waits"><skipped/></testcase>
      <testcase time="1"/>
    </testsuite></testsuites>`);
    expect(left).toBe(1);
    expect(results.map(({ suite, name, result, took }) => [suite, name, result, took])).toEqual([
      ["price", "pays", "passed", 12],
      ["prices", "fails", "failed", null],
      ["prices", "breaks", "failed", null],
      ["prices", "waits", "skipped", null],
    ]);
    expect(results[1].message).toBe("no\nat line 3");
  });

  test("any text is read or refused in words, never with a crash", () => {
    const piece = fc.constantFrom(
      "<testsuite>",
      "</testsuite>",
      "<testcase name='a'>",
      "<failure/>",
      "&x;",
    );
    fc.assert(
      fc.property(fc.array(fc.oneof(piece, fc.string())), (pieces) => {
        try {
          readJunit(pieces.join(""));
        } catch (problem) {
          expect((problem as Error).constructor.name).toBe("FileProblem");
        }
      }),
    );
  });

  test("twice the results take about twice the room, and the most are kept", () => {
    const of = (n: number) => `<testsuite>${"<testcase name='a'/>".repeat(n)}</testsuite>`;
    expect(readJunit(of(10_050))).toMatchObject({ left: 50 });
  });
});

describe("events of tests", () => {
  const event = (type: string, data: object) =>
    readTestEvent({ specversion: "1.0", id: "1", source: "s", type, data } as never, 5);
  const repository = { id: "ticket-app" };
  const commit = "a".repeat(40);

  test("a single result is read as CDEvents tells it", () => {
    const told = event("dev.cdevents.testcaserun.finished.0.2.0", {
      subject: {
        id: "r1",
        content: {
          ...{ repository, outcome: "fail", reason: "late" },
          ...{ testCase: { id: "t", name: "pays" }, testSuite: { id: "prices" } },
        },
      },
      customData: { commit },
    });
    expect(told).toMatchObject({
      ...{ repository: "ticket-app", commit, run: "r1", at: 5, left: 0 },
      results: [{ suite: "prices", name: "pays", result: "failed", message: "late" }],
    });
  });

  test("one that names no commit says nothing; results that are no XML are refused", () => {
    const type = "dev.cdevents.testsuiterun.finished.0.2.0";
    expect(event(type, { subject: { id: "r", content: { repository } } })).toBeNull();
    const customData = { commit, junit: "no" };
    expect(() =>
      event(type, { subject: { id: "r", content: { repository } }, customData }),
    ).toThrow("well-formed");
  });
});

describe("whose a failing step is", () => {
  const work = (id: string, mergedAt: number, more: Partial<MergedWork> = {}): MergedWork => ({
    ...{ id, words: "Colours", url: null, item: null, author: { id: null, name: "N" }, mergedAt },
    ...more,
  });
  const of = (id: string, parts: string[] = []) => ({ id, key: `TIX-${id}`, title: "X", parts });
  const step = {
    itemId: "1",
    parts: ["The ticket itself"],
    text: "Hold it under the gate",
    passedBefore: true,
  };

  test("what was made for the item, then for its part, then what speaks of it, then what is newest", () => {
    const suspects = suspectsOf(step, [
      work("newest", 9),
      work("says", 3, { words: "The gate waits under load" }),
      work("part", 2, { item: of("2", ["The ticket itself"]) }),
      work("own", 1, { item: of("1") }),
    ]);
    expect(suspects.map(({ id }) => id)).toEqual(["own", "part", "says"]);
    expect(suspects.map(({ evidence }) => evidence[0])).toEqual([
      "made for TIX-1",
      "also about The ticket itself",
      "speaks of gate",
    ]);
  });

  test("where nothing speaks for any, what was merged last comes first", () => {
    expect(suspectsOf(step, [work("a", 1), work("b", 2)]).map(({ id }) => id)).toEqual(["b", "a"]);
  });

  test("of a pass is spoken only where there was one", () => {
    const [again] = suspectsOf(step, [work("a", 1)]);
    expect(again.evidence).toEqual(["merged since it passed last"]);
    const [first] = suspectsOf({ ...step, passedBefore: false }, [work("a", 1)]);
    expect(first.evidence).toEqual(["merged lately, it has not passed yet"]);
  });
});
