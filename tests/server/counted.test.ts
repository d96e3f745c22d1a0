import fc from "fast-check";
import type { Condition } from "@/core/condition/condition";
import type { FactName } from "@/core/condition/facts";
import type { CountedAsked, CountedView } from "@/core/item/list/counted-values";
import { tableAsked } from "@/core/item/list/table";
import { PLAIN_LOOK } from "@/core/view/look";
import { readBoard } from "@/server/board/read";
import { readCounted } from "@/server/item/list/counted";
import { readTable } from "@/server/item/list/table";
import { standsIn } from "@/core/board/columns-by";
import { ANSWERS, itemIn, move, refusalOf } from "./setup/board";
import { ARTHUR, INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const EVERYTHING: Condition = { kind: "all", of: [] };
const asked = (facts: readonly FactName[], more: Partial<CountedAsked> = {}): CountedAsked => ({
  board: null,
  standing: false,
  condition: EVERYTHING,
  fields: facts.map((fact) => ({ fact, condition: more.condition ?? EVERYTHING })),
  named: [],
  sum: "estimate",
  ...more,
});
const read = (of: CountedAsked, viewer = INES) => readCounted(viewer, "TIX", of);

/** What all values of a field come to. */
const added = ({ fields }: CountedView, at: number) =>
  fields[at].values.reduce(
    (both, { count, sum }) => ({ count: both.count + count, sum: both.sum + sum }),
    { count: 0, sum: 0 },
  );

test("values agree with the table that shows their items, group by group and in all", async () => {
  const condition: Condition = {
    kind: "compare",
    fact: "stateKind",
    op: "one of",
    value: ["waiting", "working"],
  };
  for (const fact of ["stateId", "assigneeId", "priority", "age", "dueOn"] as const) {
    const counted = await read(asked([fact], { condition }));
    const look = { ...PLAIN_LOOK, scope: condition, group: fact };
    const { head } = await readTable(INES, "TIX", tableAsked(look));
    const inGroups = new Map(head!.groups.map(({ key, count }) => [key, count]));
    const inValues = counted.fields[0].values.filter(({ count }) => count > 0);
    expect(new Map(inValues.map(({ key, count }) => [key, count]))).toEqual(inGroups);
    expect(counted.total.count).toBe(head!.total.count);
  }
});

test("on a board only what stands in its columns counts, and what somebody may not see never does", async () => {
  const board = await readBoard(ARTHUR, "TIX", null, { finished: "all" });
  const standing = board.cards.filter((card) =>
    board.columns.some((c) => standsIn(board.board, c, card)),
  );
  const counted = await read(asked(["assigneeId", "stateId"], { standing: true }), ARTHUR);
  expect(counted.total.count).toBe(standing.length);
  for (const { key, count } of counted.fields[1].values)
    expect(count).toBe(standing.filter((card) => card.stateId === key).length);
  expect(await refusalOf(readCounted(INES, "NONE", asked([])))).toBe("not found");
});

test("of named conditions it is said how many of the list they are true of", async () => {
  const bugs: Condition = { kind: "compare", fact: "typeId", op: "is", value: "bug" };
  const counted = await read(asked(["typeId"], { named: [bugs, EVERYTHING] }));
  const byType = counted.fields[0].values.find(({ key }) => key === "bug")!;
  expect(counted.named).toEqual([byType.count, counted.total.count]);
});

test("counts agree with each other and with the list at every moment while eight people move items", async () => {
  const ids: string[] = [];
  for (let i = 0; i < 8; i++) ids.push(await itemIn(NOOR, `Counted while it moves ${i}`, "Ready"));
  const facts = ["stateId", "assigneeId", "priority", "labels", "daysInState"] as const;
  const kinds: Condition = {
    kind: "compare",
    fact: "stateKind",
    op: "one of",
    value: ["waiting", "working"],
  };
  let moves = 0;
  let readings = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.constantFrom("Building", "Backlog", "Ready"), { minLength: 4, maxLength: 6 }),
      async (path) => {
        let moving = 8;
        const movers = ids.map(async (id) => {
          for (const to of path)
            await move(INES, id, to, ANSWERS, { overrideReason: "To be counted." }).then(
              () => (moves += 1),
              () => undefined,
            );
          moving -= 1;
        });
        while (moving > 0) {
          const view = await read(asked(facts, { condition: kinds, named: [kinds] }));
          for (const at of [0, 1, 2, 4])
            expect(added(view, at)).toEqual({
              count: view.total.count,
              sum: expect.closeTo(view.total.sum, 5) as unknown,
            });
          expect(view.named).toEqual([view.total.count]);
          readings += 1;
        }
        await Promise.all(movers);
        const view = await read(asked(facts, { condition: kinds }));
        const { head } = await readTable(INES, "TIX", tableAsked({ ...PLAIN_LOOK, scope: kinds }));
        expect(view.total.count).toBe(head!.total.count);
      },
    ),
    { numRuns: 6 },
  );
  expect(moves).toBeGreaterThan(12);
  expect(readings).toBeGreaterThan(10);
});
