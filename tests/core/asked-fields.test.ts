import type { Condition } from "@/core/condition/condition";
import { askedOfItems } from "@/core/workflow/asked-fields";
import type { Requirement } from "@/core/workflow/requirements/table";
import { workflow } from "./setup/make";

const asked = (...requirements: Requirement[]) =>
  askedOfItems({
    ...workflow,
    transitions: workflow.transitions.map((t, i) => ({
      ...t,
      requirements: requirements.filter((_, of) => of % workflow.transitions.length === i),
    })),
  });
const NOTHING = {
  fields: [],
  approvals: false,
  blockers: false,
  openChildren: false,
  changes: false,
};
const compare = (fact: string): Condition =>
  ({ kind: "compare", fact, op: "is set", value: null }) as Condition;

test.each<[string, Requirement[], Partial<ReturnType<typeof askedOfItems>>]>([
  ["nothing is demanded", [{ kind: "reason" }], {}],
  [
    "demands and conditions name fields, in their order, each once",
    [
      { kind: "filled", field: "place" },
      { kind: "filled", field: "own.f-route" },
      {
        kind: "condition",
        condition: { kind: "not", of: { kind: "any", of: [compare("dueOn"), compare("place")] } },
      },
    ],
    { fields: ["dueOn", "place"] },
  ],
  [
    "a condition that is not finished names none",
    [{ kind: "condition", condition: { kind: "unread", text: "item.place" } }],
    {},
  ],
  ["approvals", [{ kind: "approvals", count: 2, role: null, teamId: null }], { approvals: true }],
  ["a blocker", [{ kind: "no blocker" }], { blockers: true }],
  [
    "a blocker, asked by a condition",
    [
      {
        kind: "condition",
        condition: { kind: "compare", fact: "blocked", op: "is", value: false },
      },
    ],
    { blockers: true },
  ],
  ["sub-tasks", [{ kind: "sub-tasks finished" }], { openChildren: true }],
  ["changes", [{ kind: "change merged", checks: true }], { changes: true }],
])("what the rules of a workflow ask of an item: %s", (_, requirements, expected) => {
  expect(asked(...requirements)).toEqual({ ...NOTHING, ...expected });
});
