import { randomUUID } from "node:crypto";
import { CARD_MORE, USUAL_CARDS, type CardMark } from "@/core/board/card-look";
import type { Condition } from "@/core/condition/condition";
import { holds } from "@/core/condition/evaluate";
import { NOTHING_AROUND } from "@/core/condition/facts";
import type { ItemSnapshot } from "@/core/item/fields";
import { tableAsked } from "@/core/item/list/table";
import { smallZigzag } from "@/core/flow/small-zigzag";
import { PLAIN_LOOK } from "@/core/view/look";
import { readBoard } from "@/server/board/read";
import { createItem } from "@/server/item/create";
import { readItem } from "@/server/item/read";
import { readUntil } from "@/server/plan/reach";
import { dayNumber, parseIsoDate } from "@/core/calendar/zone";
import { readCardFacts } from "@/server/item/list/card-facts";
import { readTable } from "@/server/item/list/table";
import { itemIn, send } from "./setup/board";
import { ARTHUR, INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const mark = (word: string, condition: Condition): CardMark => ({
  word,
  sign: "flag",
  tone: "rest",
  condition,
});
const MARKS = [
  mark("blocked", { kind: "compare", fact: "blocked", op: "is", value: true }),
  mark("high", { kind: "compare", fact: "priority", op: "is", value: "high" }),
];

test("the first mark that is true stands on a card, as the core says it", async () => {
  const { cards, now, project } = await readBoard(INES, "TIX", null, { finished: "all" });
  const look = { ...USUAL_CARDS, marks: MARKS };
  const told = await readCardFacts(INES, "TIX", { board: null, cards: look, of: null });
  const asker = { personId: "ines", teamIds: [], now, zone: project.zone };
  const met = new Set<number>();
  for (const card of cards) {
    const asked = { ...NOTHING_AROUND, item: card as unknown as ItemSnapshot };
    const first = MARKS.findIndex(({ condition }) => holds(condition, asked, asker));
    expect(told[card.id]?.mark ?? null).toBe(first < 0 ? null : first);
    met.add(first);
  }
  expect(met.size).toBe(3);
});

test("what cards do not say themselves is what a table says of the items", async () => {
  const facts = ["createdBy", "estimate", "promise"] as const;
  const cards = { ...USUAL_CARDS, facts: [...facts] };
  const told = await readCardFacts(INES, "TIX", { board: null, cards, of: null });
  const promised: Condition = { kind: "compare", fact: "promise", op: "is set", value: null };
  const fields = facts.map((fact) => ({ fact, width: null }));
  const look = { ...PLAIN_LOOK, scope: promised, fields };
  const { rows } = await readTable(INES, "TIX", { ...tableAsked(look), limit: 200 });
  // The estimate is on the card itself: of the server only the others are asked.
  for (const { card, values } of rows) expect(told[card.id].values).toEqual([values[0], values[2]]);
  expect(rows.length).toBeGreaterThan(3);
});

test("a card that changes is asked after alone, and of what somebody may not see nothing is told", async () => {
  const id = await itemIn(NOOR, "Carries a mark", "Ready");
  const cards = { ...USUAL_CARDS, marks: MARKS };
  const markOf = (viewer = INES) => readCardFacts(viewer, "TIX", { board: null, cards, of: [id] });
  expect(await markOf()).toEqual({ [id]: { values: [], mark: null } });
  await send(NOOR, id, { kind: "edit", seenVersion: 2, changes: { priority: "high" } });
  expect(await markOf()).toEqual({ [id]: { values: [], mark: 1 } });
  await send(INES, id, { kind: "edit", seenVersion: 3, changes: { restricted: true } });
  expect(await markOf(ARTHUR)).toEqual({});
});

test("a card's line, the time left of its promise and what it stands under are told on demand", async () => {
  const plain = await readCardFacts(INES, "TIX", { board: null, cards: USUAL_CARDS, of: null });
  expect(plain).toEqual({});
  const cards = { ...USUAL_CARDS, more: [...CARD_MORE] };
  const told = await readCardFacts(INES, "TIX", { board: null, cards, of: null });
  const { cards: shown } = await readBoard(INES, "TIX");
  for (const card of shown) {
    const inProgress = card.stateKind === "waiting" || card.stateKind === "working";
    expect(told[card.id]?.zigzag !== undefined).toBe(inProgress);
  }
  const [one] = shown.filter((card) => card.stateKind === "working");
  const { zigzag, promise, parent } = await readItem(INES, one.key);
  expect(told[one.id].zigzag!.map(([level]) => level)).toEqual(
    smallZigzag(zigzag).map(([level]) => level),
  );
  expect(told[one.id].parent ?? null).toEqual(parent);
  const late = shown.find(({ id }) => (told[id]?.left?.ms ?? 0) < 0)!;
  expect((await readItem(INES, late.key)).promise).toMatchObject(
    told[late.id].left!.owed === "answer"
      ? { answer: { standing: "missed" } }
      : { resolve: { standing: "missed" } },
  );
  expect(promise === null).toBe(told[one.id].left === undefined);
});

test("when an open item is probably finished, its card says as the timeline does", async () => {
  const cards = { ...USUAL_CARDS, more: ["probably" as const] };
  const told = await readCardFacts(INES, "TIX", { board: null, cards, of: null });
  const { until } = await readUntil(INES, "TIX");
  const today = dayNumber(Date.now(), "Europe/London");
  const { cards: shown } = await readBoard(INES, "TIX");
  const running = shown.filter(({ id }) => told[id]?.probably);
  expect(running.length).toBeGreaterThan(10);
  for (const { id, stateKind } of shown) {
    const said = told[id]?.probably;
    if (stateKind === "finished") expect(said).toBeUndefined();
    if (said?.sure) expect(parseIsoDate(said.sure) - today).toBe(until[id].sure);
  }
  const across = await readCardFacts(INES, "team-ticketing", { board: null, cards, of: null });
  expect(Object.values(across).filter(({ probably }) => probably)).toEqual([]);
});

test("what an item stands under is not named to who may not see it", async () => {
  const parent = await itemIn(NOOR, "Above others");
  const { card: child } = await createItem(NOOR, {
    commandId: randomUUID(),
    projectKey: "TIX",
    parentId: parent,
    fields: { title: "Under it", typeId: "task" },
  });
  const cards = { ...USUAL_CARDS, more: ["parent" as const] };
  const parentOf = async (viewer = ARTHUR) =>
    (await readCardFacts(viewer, "TIX", { board: null, cards, of: [child.id] }))[child.id]?.parent;
  expect(await parentOf()).toMatchObject({ title: "Above others" });
  await send(INES, parent, { kind: "edit", seenVersion: 1, changes: { restricted: true } });
  expect(await parentOf()).toBeUndefined();
});
