import { isDerived, OWN_FIELD_KINDS, ownFieldSchema } from "@/core/item/own-field";
import {
  SHOWN_FROM,
  SHOWN_FROM_NAMES,
  shownBys,
  shownKind,
  shownValues,
  sourceWords,
  type ShownSource,
} from "@/core/item/shown-source";
import { OWN_FIELDS } from "./setup/conditions";
import { refused } from "./setup/refused";

const source = (
  from: ShownSource["from"],
  of: string,
  by: ShownSource["by"] = null,
): ShownSource => ({ from, of, by });

test.each([
  [source("parent", "dueOn"), "shown date", "due date of its parent"],
  [source("parent", "own.f-value"), "shown number", "Value lost per week of its parent"],
  [source("parent", "own.f-route"), "shown text", "Route of its parent"],
  [source("release", "dueOn"), "shown date", "planned day of its release"],
  [source("sprint", "goal"), "shown text", "goal of its sprint"],
  [source("children", "estimate", "sum"), "shown number", "the sum of estimate of its children"],
  [
    source("waits for", "dueOn", "latest"),
    "shown date",
    "the latest due date of what it still waits for",
  ],
  [source("waited for", "key", "list"), "shown text", "key of what waits for it"],
  [source("led to", "title", "count"), "shown number", "how many: what came from it"],
] as const)("%j is a %s: %s", (one, kind, words) => {
  expect(shownKind(one, OWN_FIELDS)).toBe(kind);
  expect(sourceWords(one, OWN_FIELDS)).toBe(words);
});

test.each([
  ["one step only: what is computed is not shown", source("parent", "own.f-cost")],
  ["what is shown is not shown again", source("parent", "own.f-below")],
  ["several values of one item are none", source("parent", "own.f-quays")],
  ["of one there is nothing to sum up", source("parent", "estimate", "sum")],
  ["of several it has to be said what they come to", source("children", "estimate")],
  ["texts have no sum", source("children", "title", "sum")],
  ["numbers have no earliest", source("children", "estimate", "earliest")],
  ["a sprint has no estimate", source("sprint", "estimate")],
  ["a release has no fields of the project's own", source("release", "own.f-value")],
  ["a field that is gone", source("parent", "own.f-gone")],
])("%s", (_why, one) => {
  expect(shownKind(one, OWN_FIELDS)).toBeNull();
});

test("everything that is offered can be shown, in every way that is offered for it", () => {
  for (const from of SHOWN_FROM_NAMES)
    for (const { of, kind } of shownValues(from, OWN_FIELDS))
      for (const by of SHOWN_FROM[from].several ? shownBys(kind) : [null])
        expect([from, of, by, shownKind({ from, of, by }, OWN_FIELDS)]).toEqual([
          from,
          of,
          by,
          expect.stringMatching(/^shown (number|date|text)$/),
        ]);
});

test("a field says what it shows, and nothing else does; nobody fills it in", () => {
  const field = {
    ...OWN_FIELDS.find(({ id }) => id === "f-below")!,
    id: "f-new",
    name: "Below",
  };
  expect(refused(ownFieldSchema, field)).toEqual([]);
  expect(refused(ownFieldSchema, { ...field, source: null })).toHaveLength(1);
  expect(refused(ownFieldSchema, { ...field, kind: "number" })).toHaveLength(1);
  expect(refused(ownFieldSchema, { ...field, requiredAtStart: true })).not.toEqual([]);
  expect(OWN_FIELD_KINDS.filter(isDerived)).toEqual([
    "computed",
    "shown number",
    "shown date",
    "shown text",
  ]);
});
