import fc from "fast-check";
import {
  answersOf,
  FIRST_FORM,
  formDefinitionSchema,
  formFaults,
  PART_QUESTIONS,
  readForm,
  shownQuestions,
  type FormQuestion,
  type RawAnswers,
} from "@/core/intake/form";
import { runs } from "./setup/runs";

const own = (id: string, change: Partial<FormQuestion> = {}): FormQuestion => ({
  id,
  fills: null,
  kind: "short text",
  label: id,
  help: "",
  required: false,
  options: [],
  shownIf: null,
  ...change,
});
const travelled = own("travelled", { kind: "yes or no", required: true });
const paid = own("paid", {
  kind: "number",
  required: true,
  shownIf: { questionId: "travelled", is: "no" },
});
const why = own("why", { required: true, shownIf: { questionId: "with", is: "a dog" } });
const brings = own("with", {
  kind: "several of",
  options: ["a dog", "a bicycle", "a pram"],
  shownIf: { questionId: "travelled", is: "yes" },
});
const questions = [PART_QUESTIONS.title, travelled, paid, brings, why, PART_QUESTIONS.mail];
const GOOD: RawAnswers = {
  title: ["Gate hums"],
  mail: ["a@post.saltmarsh.example"],
  travelled: ["yes"],
};

describe("what is asked", () => {
  const shown = (answers: RawAnswers) => shownQuestions(questions, answers).map((q) => q.id);
  test.each<[string, RawAnswers, string[]]>([
    ["nothing answered", {}, ["title", "travelled", "mail"]],
    ["no", { travelled: ["no"] }, ["title", "travelled", "paid", "mail"]],
    ["yes", { travelled: ["yes"] }, ["title", "travelled", "with", "mail"]],
    [
      "one of several",
      { travelled: ["yes"], with: ["a bicycle", "a dog"] },
      ["title", "travelled", "with", "why", "mail"],
    ],
    [
      "an answer to a hidden question hides what depends on it",
      { travelled: ["no"], with: ["a dog"] },
      ["title", "travelled", "paid", "mail"],
    ],
  ])("%s", (_name, answers, expected) => expect(shown(answers)).toEqual(expected));
});

describe("what was sent", () => {
  const read = (change: RawAnswers) => readForm({ questions }, { ...GOOD, ...change });
  test("fills the report; a form's own answers stand with their words, several with commas", () => {
    expect(read({ with: ["a dog", "a pram"], why: [" He is\r\nsmall\u0000 "] })).toEqual({
      report: {
        title: "Gate hums",
        happened: "",
        reproduce: "",
        place: "",
        mail: "a@post.saltmarsh.example",
      },
      answers: [
        { questionId: "travelled", label: "travelled", value: "yes" },
        { questionId: "with", label: "with", value: "a dog, a pram" },
        { questionId: "why", label: "why", value: "He is\nsmall" },
      ],
      errors: [],
    });
  });
  test.each<[string, RawAnswers, { field: string; message: RegExp }[]]>([
    [
      "nothing at all",
      { title: [], mail: undefined, travelled: [] },
      [
        { field: "title", message: /few words/ },
        { field: "travelled", message: /needed/ },
        { field: "mail", message: /cannot answer/ },
      ],
    ],
    ["only blanks", { title: [" \t"] }, [{ field: "title", message: /few words/ }]],
    [
      "a number that is none",
      { travelled: ["no"], paid: ["much"] },
      [{ field: "paid", message: /number/ }],
    ],
    [
      "a number without end",
      { travelled: ["no"], paid: ["Infinity"] },
      [{ field: "paid", message: /number/ }],
    ],
    [
      "what is not offered, among several",
      { with: ["a dog", "a whale"], why: ["x"] },
      [{ field: "with", message: /offered/ }],
    ],
    [
      "a required one that is shown by an answer",
      { with: ["a dog"] },
      [{ field: "why", message: /needed/ }],
    ],
    ["too long", { title: ["x".repeat(201)] }, [{ field: "title", message: /200/ }]],
    ["no address", { mail: ["a@"] }, [{ field: "mail", message: /address/ }]],
  ])("%s", (_name, change, errors) =>
    expect(read(change).errors).toEqual(
      errors.map((e) => ({ ...e, message: expect.stringMatching(e.message) })),
    ),
  );
  test("a decimal comma is a number; a day must be one", () => {
    expect(readForm({ questions: [own("n", { kind: "number" })] }, { n: ["3,5"] }).errors).toEqual(
      [],
    );
    const day = (text: string) =>
      readForm({ questions: [own("d", { kind: "date" })] }, { d: [text] }).errors.length;
    expect([day("2026-02-28"), day("2026-02-30"), day("tomorrow"), day("")]).toEqual([0, 1, 1, 0]);
  });
  test("whatever is sent: nothing that was not asked gets in, and what is taken fits", () => {
    const field = fc.oneof(
      fc.constantFrom(...questions.map((q) => q.id), "__proto__", "constructor", "status", "token"),
      fc.string({ maxLength: 10 }),
    );
    const values = fc.array(
      fc.oneof(
        fc.string({ maxLength: 300 }),
        fc.constantFrom("yes", "no", "a dog", "<script>", "\u0000"),
      ),
      { maxLength: 4 },
    );
    fc.assert(
      fc.property(fc.array(fc.tuple(field, values), { maxLength: 12 }), (sent) => {
        const raw: Record<string, string[]> = Object.create(null);
        for (const [name, given] of sent) raw[name] = given;
        const { report, answers, errors } = readForm({ questions }, raw);
        const asked = new Set(shownQuestions(questions, raw).map((q) => q.id));
        expect(Object.keys(report).sort()).toEqual([
          "happened",
          "mail",
          "place",
          "reproduce",
          "title",
        ]);
        for (const a of [...answers.map((x) => x.questionId), ...errors.map((e) => e.field)])
          expect(asked.has(a)).toBe(true);
        for (const a of answers) {
          const allowed = answersOf(questions.find((q) => q.id === a.questionId)!);
          if (allowed.length > 0)
            expect(a.value.split(", ").every((v) => allowed.includes(v))).toBe(true);
        }
        expect(report.title.length).toBeLessThanOrEqual(200);
        expect(JSON.stringify([report, answers])).not.toMatch(/\\u000[0-8]/);
      }),
      { numRuns: runs(400) },
    );
  });
});

describe("what keeps a form from being used", () => {
  const faults = (...list: FormQuestion[]) => formFaults({ questions: list }).map((f) => f.message);
  const { title, mail } = PART_QUESTIONS;
  test("the first form has no fault", () =>
    expect(formDefinitionSchema.safeParse(FIRST_FORM).success).toBe(true));
  test.each<[string, FormQuestion[], RegExp]>([
    ["no title", [mail], /what it is about/],
    ["no mail", [title], /mail address/],
    ["a title that need not be given", [{ ...title, required: false }, mail], /always asked/],
    ["the same id twice", [title, mail, own("a"), own("a")], /same id/],
    ["one part twice", [title, { ...title, id: "again" }, mail], /asked twice/],
    ["a part of another kind", [{ ...title, kind: "number" }, mail], /asked as short text/],
    ["one option", [title, mail, own("a", { kind: "one of", options: ["x"] })], /two options/],
    [
      "two options that are one",
      [title, mail, own("a", { kind: "one of", options: ["x", "x"] })],
      /two options/,
    ],
    [
      "a comma where several can be chosen",
      [title, mail, own("a", { kind: "several of", options: ["x, y", "z"] })],
      /comma/,
    ],
    [
      "depending on what comes later",
      [
        title,
        own("a", { shownIf: { questionId: "b", is: "yes" } }),
        own("b", { kind: "yes or no" }),
        mail,
      ],
      /before it/,
    ],
    [
      "depending on itself",
      [title, mail, own("a", { kind: "yes or no", shownIf: { questionId: "a", is: "yes" } })],
      /before it/,
    ],
    [
      "depending on an answer that cannot be given",
      [
        title,
        mail,
        own("a", { kind: "yes or no" }),
        own("b", { shownIf: { questionId: "a", is: "perhaps" } }),
      ],
      /cannot be given/,
    ],
    ["files of one's own", [title, mail, own("a", { kind: "files" })], /asked for once/],
  ])("%s", (_name, list, message) =>
    expect(faults(...list)).toEqual([expect.stringMatching(message)]),
  );
});
