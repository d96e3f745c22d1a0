import { transitionSchema, workflowSchema } from "@/core/workflow/definition";
import { FIELD_WORDS } from "@/core/item/fields";
import { followUpKindOf } from "@/core/workflow/follow-ups/table";
import type { ParameterEditor } from "@/core/workflow/parameter";
import {
  requirementKindOf,
  requirementWords,
  type Requirement,
} from "@/core/workflow/requirements/table";
import { changeState } from "@/core/workflow/edit";
import type { StateLimit } from "@/core/workflow/state";
import { VOCABULARY } from "./setup/conditions";
import { workflow } from "./setup/make";

describe("a stored workflow", () => {
  const wrong = (document: unknown) =>
    workflowSchema.safeParse(document).error?.issues.map((i) => i.message) ?? [];
  const [first, second, ...states] = workflow.states;
  const [move, other, ...moves] = workflow.transitions;

  test("is read back as it was", () => {
    expect(workflowSchema.parse(JSON.parse(JSON.stringify(workflow)))).toEqual(workflow);
  });
  test("has no two states and no two moves of one id", () => {
    const twins = { ...workflow, states: [first, second, ...states, { ...first }] };
    expect(wrong(twins)).toEqual(["Two states have the same id."]);
    const moved = { ...workflow, transitions: [move, { ...other, id: move.id }, ...moves] };
    expect(wrong(moved)).toEqual(["Two moves have the same id."]);
  });
  test("has no move from or to a state that is not there", () => {
    const lost = `The move “${move.verb}” leads from or to a state that is not there.`;
    const leading = (change: object) =>
      wrong({ ...workflow, transitions: [{ ...move, ...change }, other, ...moves] });
    expect(leading({ to: "Nowhere" })).toEqual([lost]);
    expect(leading({ from: [first.id, "Nowhere"] })).toEqual([lost]);
    expect(leading({ from: null, to: second.id })).toEqual([]);
  });
  test("says of an older move, which names one state, the same as of a newer", () => {
    expect(transitionSchema.parse({ ...move, from: "Ready" }).from).toEqual(["Ready"]);
    expect(transitionSchema.parse({ ...move, from: ["Ready", "Live"] }).from).toHaveLength(2);
    expect(transitionSchema.parse({ ...move, from: null }).from).toBeNull();
  });
  test.each<[least: number | null, most: number | null, fine: boolean]>([
    [2, 3, true],
    [3, 3, true],
    [4, 3, false],
    [null, 3, true],
    [4, null, true],
  ])("a limit of at least %s and at most %s: %s", (min, max, fine) => {
    const limit: StateLimit = { min, max, firm: false, minFirm: false };
    const said = wrong(changeState(workflow, "Ready", { limit }));
    expect(said).toEqual(fine ? [] : ["The minimum is above the maximum."]);
  });
});

describe("what can be chosen in a rule", () => {
  const offered = (editor: ParameterEditor | undefined) =>
    editor && "options" in editor && typeof editor.options === "function"
      ? editor.options(VOCABULARY).map((o) => [o.value, o.label])
      : null;
  const of = (kind: Requirement["kind"], parameter: string) =>
    offered(requirementKindOf(kind).editors[parameter]);

  test("approvals: by whom, and of which team", () => {
    expect(of("approvals", "role")).toEqual([
      ["", "of anybody"],
      ["member", "of members"],
      ["lead", "of leads"],
    ]);
    expect(of("approvals", "teamId")).toEqual([
      ["", "of any team"],
      ["ticketing", "Ticketing"],
      ["quayside", "Quayside"],
    ]);
  });
  test("a full limit: go past, warn, ask, stop", () => {
    expect(of("limit ahead", "mode")).toEqual([
      ["ignore", "goes past it"],
      ["warn", "warns"],
      ["ask", "asks why"],
      ["refuse", "stops"],
    ]);
  });
  test("an outcome that follows", () => {
    expect(offered(followUpKindOf("set outcome").editors?.outcome)?.[0]).toEqual([
      "delivered",
      "delivered",
    ]);
  });
  test("a field to fill: those of every item, and own ones that are there and that people fill", () => {
    const gone = VOCABULARY.own.map((f) => (f.id === "f-log" ? { ...f, removedAt: 4 } : f));
    const editor = requirementKindOf("filled").editors.field!;
    const choices = editor.kind === "choice" ? editor.options({ ...VOCABULARY, own: gone }) : [];
    expect(choices[0]).toEqual({ value: "description", label: "description" });
    const own = choices.filter((c) => c.value.startsWith("own.")).map((c) => c.value);
    expect(own).toContain("own.f-value");
    expect(own).not.toContain("own.f-log");
    expect(own).not.toContain("own.f-cost");
    expect(choices).toContainEqual({ value: "own.f-route", label: "Route" });
    expect(choices).toContainEqual({ value: "estimate", label: FIELD_WORDS.estimate });
  });
  test("a field to fill is called by its name, also when it is gone", () => {
    const words = (field: string) =>
      requirementWords({ kind: "filled", field } as Requirement, VOCABULARY);
    expect(words("own.f-value")).toBe("needs “Value lost per week”");
    expect(words("own.f-nothing")).toBe("needs “a field that is gone”");
    expect(words("estimate")).toBe("needs an estimate");
    expect(words("reviewerId")).toBe("needs a reviewer");
  });
});
