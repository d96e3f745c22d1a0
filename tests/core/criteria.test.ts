import fc from "fast-check";
import { changesSinceAgreed, toBeSeenBy } from "@/core/item/agreed";
import {
  criteriaChange,
  criteriaSchema,
  metStill,
  openCriteria,
  type Criterion,
} from "@/core/item/criterion";
import { rewriteTexts } from "@/core/item/event-texts";
import { replay } from "@/core/item/snapshot";
import { eventWords } from "@/core/item/words";
import { Subject } from "./setup/make";
import { runs } from "./setup/runs";

const line = (id: string, text = `Line ${id}`): Criterion => ({ id, text });
const [A, B, C] = ["a", "b", "c"].map((id) => line(id));
const rewritten = (subject: Subject, criteria: Criterion[]) =>
  subject.do({
    kind: "edit",
    seenVersion: subject.item!.version,
    changes: { criteria },
  });
const meet = (subject: Subject, criterionId: string, on = true) =>
  subject.do({ kind: "meet", criterionId, on }, { actorId: "hanna" });
const metIn = (subject: Subject) => subject.item!.met.map(({ criterionId }) => criterionId);

describe("criteria are found met one by one", () => {
  test("with who found it and when; once more changes nothing, and it can be taken back", () => {
    const subject = new Subject({ criteria: [A, B] });
    const [event] = meet(subject, "b");
    expect(subject.item!.met).toEqual([{ criterionId: "b", byId: "hanna", at: event.at }]);
    expect(openCriteria(subject.item!)).toBe(1);
    expect(meet(subject, "b")).toEqual([]);
    meet(subject, "b", false);
    expect(subject.item!.met).toEqual([]);
    expect(() => meet(subject, "z")).toThrow("not there any more");
  });

  test("a line that is written anew has to be met anew, others stay met in any order", () => {
    const subject = new Subject({ criteria: [A, B, C] });
    for (const { id } of [A, B, C]) meet(subject, id);
    rewritten(subject, [C, line("a", "Otherwise"), line("d")]);
    expect(metIn(subject)).toEqual(["c"]);
    subject.undo();
    expect(metIn(subject)).toEqual(["a", "b", "c"]);
    // What is written back as it was has not been met again.
    rewritten(subject, [line("a", "Otherwise"), B, C]);
    rewritten(subject, [A, B, C]);
    expect(metIn(subject)).toEqual(["b", "c"]);
  });

  test("stay met through moves, unlike the agreement of a state", () => {
    const subject = new Subject({ criteria: [A] });
    meet(subject, "a");
    subject.move("Ready").move("Building", { assigneeId: "noor" });
    expect(metIn(subject)).toEqual(["a"]);
    expect(subject.item!.ticks).toEqual([]);
  });

  test("whatever is done, what is met is a criterion, and the history gives the item again", () => {
    const anyLines = fc
      .subarray(["a", "b", "c", "d"])
      .chain((ids) =>
        fc.tuple(...ids.map((id) => fc.constantFrom("x", "y").map((text) => line(id, text)))),
      );
    const anyStep = fc.oneof(
      anyLines.map((criteria) => ({ kind: "write" as const, criteria })),
      fc.record({
        kind: fc.constant("meet" as const),
        id: fc.constantFrom("a", "b", "c", "d"),
        on: fc.boolean(),
      }),
      fc.constant({ kind: "undo" as const }),
    );
    fc.assert(
      fc.property(fc.array(anyStep, { maxLength: 25 }), (steps) => {
        const subject = new Subject({ criteria: [A, B] });
        for (const step of steps) {
          try {
            if (step.kind === "write") rewritten(subject, step.criteria);
            else if (step.kind === "meet") meet(subject, step.id, step.on);
            else subject.undo();
          } catch {
            // Refused: there is no such line, or nothing to take back.
          }
          const { criteria, met } = subject.item!;
          const ids = met.map(({ criterionId }) => criterionId);
          expect(new Set(ids).size).toBe(ids.length);
          expect(ids.every((id) => criteria.some((one) => one.id === id))).toBe(true);
        }
        expect(replay(subject.events)).toEqual(subject.item);
      }),
      { numRuns: runs(300) },
    );
  });

  test("their texts stand apart from the events, and come back to them", () => {
    const subject = new Subject({ criteria: [A] });
    meet(subject, "a");
    rewritten(subject, [line("a", "Another"), B]);
    meet(subject, "b");
    meet(subject, "b", false);
    const texts: string[] = [];
    const stored = subject.events.map((event) =>
      rewriteTexts(event, (text) => `#${texts.push(text) - 1}`),
    );
    expect(JSON.stringify(stored)).not.toMatch(/Line|Another/);
    const back = stored.map((event) => rewriteTexts(event, (id) => texts[Number(id.slice(1))]));
    expect(back).toEqual(subject.events);
  });
});

test.each([
  [[A], [A, B], "added “Line b”"],
  [[A, B], [B], "took out “Line a”"],
  [[A], [line("a", "New")], "rewrote “New”"],
  [[A, B], [B, A], "changed the order"],
  [[A, B], [line("b", "New"), C], "added “Line c”, rewrote “New”, took out “Line a”"],
])("a change of criteria is told in words: %#", (before, after, words) => {
  expect(criteriaChange(before, after)).toBe(words);
  const subject = new Subject({ criteria: before });
  const [event] = rewritten(subject, after);
  const names = { own: () => undefined } as never;
  expect(eventWords(event, names)).toBe(`in the acceptance criteria ${words}`);
});

test("criteria from outside have an id and say something, and no two are one", () => {
  const id = "3f0c9f1e-3b60-4c0c-8a55-0d7a3f1f9d11";
  expect(criteriaSchema.parse([{ id, text: "  It rings.  " }])).toEqual([
    { id, text: "It rings." },
  ]);
  for (const wrong of [
    [{ id, text: " " }],
    [{ id: "a", text: "x" }],
    [{ id, text: "x".repeat(501) }],
    [
      { id, text: "x" },
      { id, text: "y" },
    ],
  ])
    expect(criteriaSchema.safeParse(wrong).success).toBe(false);
  expect(metStill([{ criterionId: "a", byId: null, at: 1 }], [], [A])).toEqual([]);
});

describe("what was agreed when work began", () => {
  const begun = () =>
    new Subject({ criteria: [A], description: "Calm", estimate: 3 })
      .move("Ready")
      .move("Building", { assigneeId: "noor" });
  const edit = (subject: Subject, changes: object, actorId = "ines") =>
    subject.do({ kind: "edit", seenVersion: subject.item!.version, changes }, { actorId });

  test("is held against what the item says, with who changed it", () => {
    const subject = begun();
    expect(changesSinceAgreed(subject.events)).toBeNull();
    edit(subject, { description: "Rough" });
    edit(subject, { criteria: [A, B] });
    edit(subject, { estimate: 5 }, "noor");
    edit(subject, { priority: "high" }, "ivo");
    meet(subject, "a");
    const start = subject.events.find(({ kind }) => kind === "moved")!;
    expect(changesSinceAgreed(subject.events)).toEqual({
      since: start.at,
      description: "Calm",
      criteria: "added “Line b”",
      estimate: { was: 3 },
      by: [
        { personId: "ines", changes: 2 },
        { personId: "noor", changes: 1 },
      ],
    });
  });

  test("is nothing before the start, and nothing where all is as it was again", () => {
    const subject = new Subject({ description: "Calm" });
    edit(subject, { description: "Rough" });
    expect(changesSinceAgreed(subject.events)).toBeNull();
    const other = begun();
    edit(other, { description: "Rough" });
    edit(other, { description: "Calm" });
    expect(changesSinceAgreed(other.events)).toBeNull();
    edit(other, { estimate: 8 });
    other.undo({ actorId: "ines" });
    expect(changesSinceAgreed(other.events)).toBeNull();
  });

  test("has to be seen by those who did not change it themselves, as long as the change stands", () => {
    const subject = new Subject({ description: "Calm" });
    edit(subject, { description: "Rough" });
    expect(toBeSeenBy(subject.events, "noor")).toBe(0);
    subject.move("Ready");
    edit(subject, { criteria: [A] }, "ines");
    const byInes = subject.item!.version;
    edit(subject, { estimate: 8 }, "noor");
    edit(subject, { priority: "high" }, "ines");
    expect(toBeSeenBy(subject.events, "noor")).toBe(byInes);
    expect(toBeSeenBy(subject.events, "ines")).toBe(byInes + 1);
    const other = begun();
    edit(other, { estimate: 8 }, "ines");
    other.undo({ actorId: "ines" });
    expect(toBeSeenBy(other.events, "noor")).toBe(0);
  });

  test("is what was said at the last start; a start that was undone is none", () => {
    const subject = begun();
    edit(subject, { description: "Rough" });
    subject.move("Ready").move("Backlog", { reason: "Too rough" });
    expect(changesSinceAgreed(subject.events)?.description).toBe("Calm");
    subject.move("Ready");
    expect(changesSinceAgreed(subject.events)).toBeNull();
    subject.undo();
    expect(changesSinceAgreed(subject.events)?.description).toBe("Calm");
  });
});
