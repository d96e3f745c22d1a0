import { v7 as newId } from "uuid";
import { EVERY_ITEM, type Condition } from "@/core/condition/condition";
import type { AddingAsked } from "@/core/item/adding/contract";
import { editBoards } from "@/server/board/boards";
import { readAdding } from "@/server/item/adding";
import { refusalOf, stateId } from "./setup/board";
import { ARTHUR, INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const asked = (change: Partial<AddingAsked> = {}): AddingAsked => ({
  board: null,
  place: EVERY_ITEM,
  scope: EVERY_ITEM,
  filter: EVERY_ITEM,
  states: [],
  typeId: null,
  underTypeId: null,
  ...change,
});
const is = (fact: string, value: unknown, op = "is") =>
  ({ kind: "compare", fact, op, value }) as Condition;

describe("what adding an item at a place means", () => {
  test("is told with who asks, the place, the board's scope and the filter", async () => {
    const board = newId();
    const ready = await stateId("Ready");
    await editBoards(INES, "TIX", {
      kind: "save",
      seenVersion: 0,
      board: {
        id: board,
        name: "Fog",
        columnsBy: "state",
        scope: is("labels", "fog", "contains"),
        columns: [{ id: newId(), stage: "Ready", name: "", part: "waiting", stateIds: [ready] }],
      },
    });
    const { fields, into, elsewhere } = await readAdding(
      NOOR,
      "TIX",
      asked({
        board,
        states: [ready],
        place: is("classOfService", "intangible"),
        filter: is("assigneeId", { who: "me" }),
      }),
    );
    expect(fields).toMatchObject({
      labels: ["fog"],
      classOfService: "intangible",
      assigneeId: "noor",
    });
    expect(into?.to).toBe(ready);
    expect(elsewhere).toBeNull();
  });

  test("says where an item will be that will not show there", async () => {
    const building = await stateId("Building");
    expect((await readAdding(NOOR, "TIX", asked({ states: [building] }))).elsewhere).toContain(
      "no move leads from Backlog",
    );
    const old = await readAdding(NOOR, "TIX", asked({ scope: is("age", 5, "more than") }));
    expect(old.elsewhere).toMatch(/will not show here.*Backlog/);
  });

  test("is told to those alone who may add", async () => {
    expect(await refusalOf(readAdding(ARTHUR, "TIX", asked()))).toBe("not allowed");
    expect(await refusalOf(readAdding(NOOR, "TIX", asked({ board: newId() })))).toBe("not found");
  });
});
