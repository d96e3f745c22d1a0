import { columnsByKind } from "@/core/board/propose-columns";
import { EVERY_ITEM, type Condition } from "@/core/condition/condition";
import { atLevel, levelIn } from "@/core/view/level";
import { PLAIN_LOOK } from "@/core/view/look";
import type { KnownBoard } from "@/core/view/proposals";
import { fromTemplate } from "@/core/workflow/template";
import { BUILD_REVIEW_TEST_DEPLOY } from "@/core/workflow/templates/build-review-test-deploy";

const level = (value: string): Condition => ({ kind: "compare", fact: "level", op: "is", value });
const bugs: Condition = { kind: "compare", fact: "typeId", op: "is", value: "bug" };
const boards: KnownBoard[] = [
  { id: "stories", name: "Everything", columnsBy: "state", levels: ["0", "1"] },
  { id: "people", name: "People", columnsBy: "assignee", levels: ["0", "1", "2"] },
  { id: "large", name: "Voyages", columnsBy: "state", levels: ["2", "3"] },
];

test("a level is chosen, another in its place, and none again; what else is narrowed stays", () => {
  const look = { ...PLAIN_LOOK, filter: bugs };
  const one = atLevel(look, "1", boards);
  expect(levelIn(one.filter)).toBe("1");
  const two = atLevel({ ...look, ...one }, "2", boards);
  expect(levelIn(two.filter)).toBe("2");
  expect(two.filter).toEqual({ kind: "all", of: [bugs, level("2")] });
  expect(atLevel({ ...look, ...two }, null, boards).filter).toEqual(bugs);
  expect(levelIn(EVERY_ITEM)).toBeNull();
  const either: Condition = { kind: "compare", fact: "level", op: "one of", value: ["1", "2"] };
  expect(levelIn(either)).toBeNull();
});

test("a board that does not show the level gives way to one of the process that does", () => {
  const onBoard = (board: string | null) => ({ ...PLAIN_LOOK, board });
  expect(atLevel(onBoard(null), "1", boards).board).toBeNull();
  expect(atLevel(onBoard(null), "3", boards).board).toBe("large");
  expect(atLevel(onBoard("people"), "2", boards).board).toBe("people");
  expect(atLevel(onBoard("people"), "3", boards).board).toBe("large");
  expect(atLevel(onBoard("large"), "0", boards).board).toBe("stories");
  // Nothing shows it: what is looked at stays, and says that it is empty.
  expect(atLevel(onBoard("large"), "4", boards).board).toBe("large");
  const table = { ...onBoard("stories"), arrangement: "table" as const };
  expect(atLevel(table, "3", boards).board).toBe("stories");
});

test("columns by the kinds of state hold each state that is begun, of every workflow, once", () => {
  const make = (prefix: string) => {
    let n = 0;
    return fromTemplate(BUILD_REVIEW_TEST_DEPLOY, () => `${prefix}${n++}`);
  };
  const workflows = [make("a"), make("b")].map((workflow, i) => ({
    ...workflow,
    id: `w${i}`,
    version: 1,
  }));
  const columns = columnsByKind(workflows as Parameters<typeof columnsByKind>[0]);
  expect(columns.map(({ stage, part }) => [stage, part])).toEqual([
    ["Waiting", "waiting"],
    ["Worked on", "working"],
    ["Finished", "finished"],
  ]);
  const begun = workflows
    .flatMap(({ states }) => states)
    .filter(({ kind }) => kind !== "unstarted")
    .map(({ id }) => id);
  expect(columns.flatMap(({ stateIds }) => stateIds).toSorted()).toEqual(begun.toSorted());
  for (const { part, stateIds } of columns)
    for (const id of stateIds)
      expect(workflows.flatMap(({ states }) => states).find((s) => s.id === id)?.kind).toBe(part);
});
