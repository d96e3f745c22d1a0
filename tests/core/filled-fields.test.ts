import { filledFields } from "@/core/intake/filled-fields";
import { usualBugFields } from "@/core/item/bug-fields";
import { ownValueProblem, PLAIN_FIELD, type OwnField } from "@/core/item/own-field";

const field = (name: string, change: Partial<OwnField> = {}): OwnField => ({
  ...PLAIN_FIELD,
  id: `f ${name}`,
  name,
  kind: "text",
  position: 0,
  ...change,
});
const options = ["North quay", "South quay"].map((name) => ({ id: name[0], name, offered: true }));
const answer = (label: string, value: string) => ({ questionId: `q ${label}`, label, value });
const filled = (fields: OwnField[], answers: ReturnType<typeof answer>[], reproduce = "") =>
  filledFields({ reproduce, answers }, fields, "bug");

describe("what a form asks under the name of a field", () => {
  test.each<[string, OwnField, string, unknown]>([
    ["a text", field("Version"), " 4.2 ", "4.2"],
    ["a number", field("Version", { kind: "number" }), "42", 42],
    ["a day", field("Version", { kind: "date" }), "2026-11-23", "2026-11-23"],
    ["yes", field("Version", { kind: "yes or no" }), "Yes", true],
    ["no", field("Version", { kind: "yes or no" }), "no", false],
    ["a choice by its name", field("Version", { kind: "one of", options }), "south quay", "S"],
    [
      "several choices",
      field("Version", { kind: "many of", options }),
      "South quay, North quay",
      ["S", "N"],
    ],
  ])("fills it with %s", (_, of, said, value) => {
    const { own, answers } = filled([of], [answer("version?", said)]);
    expect(own).toEqual({ [of.id]: value });
    expect([...answers]).toEqual(["q version?"]);
  });

  test.each<[string, OwnField, string]>([
    ["a number that is none", field("Version", { kind: "number" }), "four"],
    ["a choice that is not offered", field("Version", { kind: "one of", options }), "West quay"],
    ["a field of other types", field("Version", { typeIds: ["story"] }), "4.2"],
    ["a field that was taken out", field("Version", { removedAt: 3 }), "4.2"],
    ["a computed field", field("Version", { kind: "computed" }), "4.2"],
    ["a person, whom outsiders do not name", field("Version", { kind: "person" }), "noor"],
    ["a text longer than it holds", field("Version"), "x".repeat(2_001)],
    ["another name", field("Versions"), "4.2"],
  ])("does not fill %s: that stays in the description", (_, of, said) => {
    const { own, answers } = filled([of], [answer("Version", said)]);
    expect([own, answers.size]).toEqual([{}, 0]);
  });

  test("fills a field once, and the steps go to their own", () => {
    const [version, steps] = [field("Version"), field("Steps to reproduce")];
    const both = [answer("Version", "4.2"), answer("version", "4.3")];
    const { own, answers, steps: stand } = filled([version, steps], both, "Open it twice");
    expect(own).toEqual({ [version.id]: "4.2", [steps.id]: "Open it twice" });
    expect([...answers]).toEqual(["q Version"]);
    expect(stand).toBe(true);
    expect(filled([version], [], "Open it twice").steps).toBe(false);
  });
});

test("the usual fields of a bug are made once, whatever the project has already", () => {
  let n = 0;
  const newId = () => `id ${n++}`;
  const first = usualBugFields([field("VERSION", { position: 4 })], ["bug"], newId);
  const names = first.map(({ name }) => name);
  expect(names).toHaveLength(6);
  expect(names).not.toContain("Version");
  expect(first.map(({ position }) => position)).toEqual([5, 6, 7, 8, 9, 10]);
  for (const of of first) expect(of.typeIds).toEqual(["bug"]);
  const often = first.find(({ kind }) => kind === "one of")!;
  expect(ownValueProblem(often, often.options[0].id)).toBeNull();
  expect(usualBugFields([...first, field("Version")], ["bug"], newId)).toEqual([]);
  expect(usualBugFields([field("Version", { removedAt: 1 })], ["bug"], newId)).toHaveLength(7);
});
