import { randomUUID } from "node:crypto";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { createItem } from "@/server/item/create";
import { holds } from "@/core/condition/evaluate";
import { NOTHING_AROUND } from "@/core/condition/facts";
import type { Condition } from "@/core/condition/condition";
import { lanesByField, NO_LANES, type LaneCondition } from "@/core/board/lanes-by";
import type { ItemSnapshot } from "@/core/item/fields";
import { readBoard } from "@/server/board/read";
import { readLanes } from "@/server/item/list/lanes";
import { readViews } from "@/server/view/read";
import { editViews } from "@/server/view/edit";
import { itemIn, send } from "./setup/board";
import { ARTHUR, INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const compare = (
  fact: "priority" | "dueOn" | "blocked",
  op: "is" | "at most",
  value: string | boolean | { day: number },
): Condition => ({ kind: "compare", fact, op, value });
const OF: LaneCondition[] = [
  { name: "Blocked", condition: compare("blocked", "is", true) },
  { name: "Soon", condition: compare("dueOn", "at most", { day: 20 }) },
  { name: "High", condition: compare("priority", "is", "high") },
];

test("of lanes by conditions the first that is true decides, as the core says it of each card", async () => {
  const { cards, now, project } = await readBoard(INES, "TIX", null, { finished: "all" });
  const lanes = { ...NO_LANES, by: { kind: "conditions" as const, of: OF } };
  const { keys } = await readLanes(INES, "TIX", { board: null, lanes, of: null });
  const asker = { personId: "ines", teamIds: [], now, zone: project.zone };
  const seen = new Set<string | null>();
  for (const card of cards) {
    const asked = { ...NOTHING_AROUND, item: card as unknown as ItemSnapshot };
    const first = OF.findIndex(({ condition }) => holds(condition, asked, asker));
    expect(keys[card.id] ?? null).toBe(first < 0 ? null : String(first));
    seen.add(keys[card.id] ?? null);
  }
  // All lanes and the rest were met.
  expect(seen.size).toBe(4);
});

test("an item that changes is asked after alone; what somebody may not see is told to nobody", async () => {
  const id = await itemIn(NOOR, "Travels in a lane", "Ready");
  const lanes = { ...NO_LANES, by: { kind: "conditions" as const, of: OF } };
  const of = [id];
  const lane = async (viewer = INES) =>
    (await readLanes(viewer, "TIX", { board: null, lanes, of })).keys;
  expect(await lane()).toEqual({ [id]: null });
  await send(NOOR, id, { kind: "edit", seenVersion: 2, changes: { priority: "high" } });
  expect(await lane()).toEqual({ [id]: "2" });
  await send(INES, id, { kind: "edit", seenVersion: 3, changes: { restricted: true } });
  expect(await lane(ARTHUR)).toEqual({});
});

test("lanes by what items are under are called what that is called, where a person may see it", async () => {
  const parent = await itemIn(NOOR, "Carries others");
  const { card: child } = await createItem(NOOR, {
    commandId: randomUUID(),
    projectKey: "TIX",
    parentId: null,
    fields: { title: "Is carried", typeId: "task" },
  });
  const { key } = (await readBoard(INES, "TIX")).cards.find((c) => c.id === parent)!;
  const lanes = { ...NO_LANES, by: { kind: "parent" as const } };
  const names = async (viewer = INES) =>
    (await readLanes(viewer, "TIX", { board: null, lanes, of: [child.id] })).names;
  expect(await names()).toEqual({});
  await send(NOOR, child.id, { kind: "put under", parentKey: key });
  expect(await names()).toEqual({ [parent]: `${key} Carries others` });
  await send(INES, parent, { kind: "edit", seenVersion: 1, changes: { restricted: true } });
  expect(await names(ARTHUR)).toEqual({});
});

test("a field that no card says is told by the server, like any other", async () => {
  const lanes = lanesByField("createdBy");
  const { keys } = await readLanes(INES, "TIX", { board: null, lanes, of: null });
  const { cards } = await readBoard(INES, "TIX");
  const made = await database().select({ id: item.id, by: item.createdBy }).from(item);
  const byId = new Map(made.map(({ id, by }) => [id, by]));
  for (const card of cards) expect(keys[card.id] ?? null).toBe(byId.get(card.id));
});

test("what somebody folds away is theirs alone, and stays", async () => {
  const folds = { lanes: ["noor"], columns: ["c1"], hidden: [] };
  await editViews(NOOR, "TIX", { kind: "fold", place: "tix-board", folds });
  await editViews(NOOR, "TIX", {
    kind: "fold",
    place: "tix-people",
    folds: { ...folds, lanes: [] },
  });
  const again = { ...folds, hidden: ["c2"] };
  await editViews(NOOR, "TIX", { kind: "fold", place: "tix-board", folds: again });
  expect((await readViews(NOOR, "TIX")).folds).toEqual({
    "tix-board": again,
    "tix-people": { ...folds, lanes: [] },
  });
  expect((await readViews(INES, "TIX")).folds).toEqual({});
});
