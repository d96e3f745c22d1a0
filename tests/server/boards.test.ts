import { randomUUID } from "node:crypto";
import { and, eq, isNull, sql } from "drizzle-orm";
import { standsIn } from "@/core/board/columns-by";
import { astrayOf } from "@/core/board/astray";
import { uncoveredStates } from "@/core/board/followed";
import type { BoardDesign } from "@/core/workflow/design-view";
import { changeState, removeState } from "@/core/workflow/edit";
import { database } from "@/db/connection";
import { boardColumn, boardPlace, columnState, item, state } from "@/db/schema";
import { limitOfColumn, limitsOfStates } from "@/core/board/board-limits";
import { editBoards } from "@/server/board/boards";
import { readBoard } from "@/server/board/read";
import { checkItems } from "@/server/item/check";
import { createItem } from "@/server/item/create";
import { readItem } from "@/server/item/read";
import { readBacklog } from "@/server/plan/backlog";
import { openInside } from "@/server/plan/timebox-totals";
import { addWorkflow } from "@/server/workflow/new-workflow";
import { publishDraft } from "@/server/workflow/publish";
import { readDesign } from "@/server/workflow/read";
import { editType } from "@/server/workflow/types";
import {
  ANSWERS,
  countIn,
  itemIn,
  limitColumn,
  move,
  refusalOf,
  send,
  stateId,
} from "./setup/board";
import { ARTHUR, INES, NOOR } from "./setup/people";
import { publishChange, runningWorkflow, storeDraft } from "./setup/process";
import { givenTestDatabase } from "./setup/test-database";
import type { BoardRequest } from "@/core/board/request";

givenTestDatabase();
const edit = (request: BoardRequest, viewer = INES) => editBoards(viewer, "TIX", request);
const design = async (id: string) =>
  (await readDesign(INES, "TIX")).boards.find((b) => b.id === id)!;
const save = ({ version, ...board }: BoardDesign, seenVersion = version) =>
  edit({ kind: "save", board, seenVersion });
const made = (change: Partial<BoardDesign>): BoardDesign => ({
  id: randomUUID(),
  name: `Another look ${randomUUID().slice(0, 8)}`,
  version: 0,
  columnsBy: "state",
  scope: null,
  columns: [],
  ...change,
});
const column = (stage: string, ...stateIds: string[]) => ({
  id: randomUUID(),
  stage,
  name: "",
  part: "working" as const,
  stateIds,
});
const seen = async (id: string) =>
  (await database().select().from(item).where(eq(item.id, id)))[0].version;

test("a board of several workflows: a column covers states of each, and what it does not cover is in none", async () => {
  const [doing] = await database()
    .select()
    .from(state)
    .where(and(eq(state.workflowId, "tix-tasks"), eq(state.kind, "working")));
  const board = made({
    columns: [column("At work", await stateId("Building"), await stateId("In review"), doing.id)],
  });
  await save(board);
  const parent = await itemIn(NOOR, "Above", "Ready", "Building");
  const task = (
    await createItem(NOOR, {
      commandId: randomUUID(),
      projectKey: "TIX",
      parentId: parent,
      fields: { title: "Part", typeId: "task" },
    })
  ).card;
  await send(NOOR, task.id, { kind: "move", from: task.stateId, to: doing.id, answers: {} });
  const waiting = await itemIn(NOOR, "Not shown", "Ready");
  const view = await readBoard(NOOR, "TIX", board.id);
  const shown = new Set(
    view.cards
      .filter((c) => view.columns.some((col) => standsIn(view.board, col, c)))
      .map((c) => c.id),
  );
  expect([shown.has(parent), shown.has(task.id), shown.has(waiting)]).toEqual([true, true, false]);
  await edit({ kind: "remove", boardId: board.id });
});

test("totals of sprints and releases count what somebody may not see, and tell nothing else of it", async () => {
  const { sprints, releases } = await readBoard(INES, "TIX");
  const [sprint, release] = [sprints.at(-1)!, releases[0]];
  const before = (await readBacklog(INES, "TIX")).totals;
  const id = await itemIn(INES, "Not for everybody");
  await send(INES, id, {
    kind: "edit",
    seenVersion: await seen(id),
    changes: { restricted: true, estimate: 8, sprintId: sprint.id, releaseId: release.id },
  });
  const mine = (await readBacklog(NOOR, "TIX")).totals;
  const whole = (await readBacklog(INES, "TIX")).totals;
  for (const [timebox, box] of [
    ["sprint", sprint],
    ["release", release],
  ] as const) {
    const none = { items: 0, points: 0, all: { items: 0, points: 0 } };
    const { items, points, all } = before[box.id] ?? none;
    expect(whole[box.id]).toEqual({
      items: items + 1,
      points: points + 8,
      unseen: 0,
      all: { items: all.items + 1, points: all.points + 8 },
    });
    expect(mine[box.id]).toEqual({ ...whole[box.id], unseen: 1 });
    const asked = { timebox, id: box.id };
    expect((await openInside(INES, "TIX", asked)).ids).toContain(id);
    const seenInside = (await openInside(NOOR, "TIX", asked)).ids;
    expect(seenInside).not.toContain(id);
    expect(seenInside).toHaveLength(whole[box.id].items - 1);
  }
});

test("a scope is asked by whoever looks: each sees their own", async () => {
  const board = made({
    columnsBy: "priority",
    scope: { kind: "compare", fact: "assigneeId", op: "is", value: { who: "me" } },
  });
  await save(board);
  const [mine, hers] = [
    await readBoard(NOOR, "TIX", board.id),
    await readBoard(INES, "TIX", board.id),
  ];
  expect(mine.cards.length).toBeGreaterThan(0);
  expect(mine.cards.every((c) => c.assigneeId === "noor")).toBe(true);
  expect(hers.cards.some((c) => c.assigneeId === "noor")).toBe(false);
});

test("what stands in a step that no column shows comes with the board, to be said there", async () => {
  const [waiting, testing] = [await stateId("Waiting for review"), await stateId("In test")];
  const board = made({
    columns: [column("Building", await stateId("Building")), column("Test", testing)],
  });
  await save(board);
  const id = await itemIn(NOOR, "Between the columns", "Ready", "Building", "Waiting for review");
  const view = await readBoard(NOOR, "TIX", board.id);
  expect(view.cards.find((c) => c.id === id)?.stateId).toBe(waiting);
  const uncovered = uncoveredStates(view);
  expect(uncovered.map((s) => s.name)).toEqual([
    "Ready",
    "Waiting for review",
    "In review",
    "Waiting for test",
    "Ready to deploy",
  ]);
  // Another workflow that the board does not follow is not missing from it.
  expect(uncovered.some((s) => s.name === "Doing")).toBe(false);
  await edit({ kind: "remove", boardId: board.id });
});

test("a type takes the states of its workflow onto the board; what no board shows is said and put on", async () => {
  const made = await addWorkflow(INES, "TIX", {
    name: "Lift repair",
    from: { kind: "template", name: "Requests with approval rounds" },
  });
  const lift = (await readDesign(INES, "TIX")).workflows.find((w) => w.id === made.workflowId)!;
  const inProgress = lift.states.filter((s) => /waiting|working/.test(s.kind)).map((s) => s.id);
  const [main] = (await readDesign(INES, "TIX")).boards;
  const shown = async () => {
    const onIt = (await design(main.id)).columns.flatMap((c) => c.stateIds);
    return inProgress.filter((id) => onIt.includes(id));
  };
  expect(await shown()).toEqual([]);
  const type = { id: "lift", name: "Lift", level: 1, workflowId: lift.id, glyph: "buoy" } as const;
  await editType(INES, "TIX", { kind: "save", type: { ...type, template: "" }, newStates: {} });
  expect(await shown()).toEqual(inProgress);

  // A lead takes all of them off again, and work goes on in them.
  const { columns, ...board } = await design(main.id);
  const others = columns
    .map((c) => ({ ...c, stateIds: c.stateIds.filter((id) => !inProgress.includes(id)) }))
    .filter((c) => c.stateIds.length > 0);
  await save({ ...board, columns: others });
  const { card } = await createItem(INES, {
    commandId: randomUUID(),
    projectKey: "TIX",
    parentId: null,
    fields: { title: "The lift at quay 3 stops between floors", typeId: "lift" },
  });
  const first = lift.transitions.find((t) => t.from?.includes(card.stateId))!;
  await send(INES, card.id, { kind: "move", from: card.stateId, to: first.to, answers: ANSWERS });
  const lost = await readBoard(NOOR, "TIX", main.id);
  const expected = { itemIds: [card.id], workflowIds: [lift.id] };
  expect(astrayOf(lost, lost.cards)).toMatchObject(expected);
  expect((await readBacklog(NOOR, "TIX")).astray).toMatchObject(expected);
  expect((await readDesign(INES, "TIX")).around.unshown[first.to]).toBe(1);

  const putOn = { kind: "show workflow", workflowId: lift.id } as const;
  expect(await refusalOf(edit(putOn, NOOR))).toBe("not allowed");
  expect(await refusalOf(edit({ ...putOn, workflowId: "gate-main" }))).toBe("not found");
  await edit(putOn);
  expect(await shown()).toEqual(inProgress);
  const found = await readBoard(NOOR, "TIX", main.id);
  expect(astrayOf(found, found.cards).itemIds).toEqual([]);
  expect((await readDesign(INES, "TIX")).around.unshown).toEqual({});
});

const limit = async (boardId: string, columnId: string, max: number | null, ofState?: string) =>
  limitColumn(
    { id: columnId, boardId },
    (await design(boardId)).version,
    { max, maxFirm: max !== null },
    { stateId: ofState },
  );

describe("a state has one limit", () => {
  const maximumAt = async (boardId: string, id: string) => {
    const { columns, limits } = await readBoard(INES, "TIX", boardId);
    return (
      limitOfColumn(
        limits,
        columns.find((c) => c.stateIds.includes(id))!,
      )?.max ?? null
    );
  };
  const inProcess = async (id: string) => {
    const { workflows, drafts } = await readDesign(INES, "TIX");
    const maxima = [
      workflows.find((w) => w.id === "tix-main")!,
      ...drafts.map((d) => d.definition),
    ];
    return maxima.map((w) => w.states.find((s) => s.id === id)?.limit?.max ?? null);
  };

  test("which every board, the process and a draft that did not change it show alike", async () => {
    const test = await stateId("Waiting for test");
    const [main] = (await readDesign(INES, "TIX")).boards;
    const other = made({ columns: [column("Waits", test)] });
    await save(other);
    const before = await maximumAt(main.id, test);
    expect(await maximumAt(other.id, test)).toBe(before);
    expect(await inProcess(test)).toEqual([before]);
    await storeDraft(INES, changeState(await runningWorkflow(), test, { expectedDays: 2 }));
    await limit(other.id, other.columns[0].id, 31);
    expect(await maximumAt(main.id, test)).toBe(31);
    expect(await inProcess(test)).toEqual([31, 31]);
    // A draft that changed it keeps its own until it is published.
    const [{ definition }] = (await readDesign(INES, "TIX")).drafts;
    const changed = { max: 17, firm: true, min: null, minFirm: false };
    const seenRevision = await storeDraft(INES, changeState(definition, test, { limit: changed }));
    await limit(other.id, other.columns[0].id, 32);
    expect(await inProcess(test)).toEqual([32, 17]);
    await publishDraft(INES, { workflowId: "tix-main", seenRevision, newStates: {}, note: "" });
    expect([await maximumAt(main.id, test), await maximumAt(other.id, test)]).toEqual([17, 17]);
    await publishChange((w) =>
      changeState(w, test, { limit: before ? { ...changed, max: before, firm: false } : null }),
    );
    await edit({ kind: "remove", boardId: other.id });
    expect(await maximumAt(main.id, test)).toBe(before);
  });

  test("that counts as the process or a board says, whichever said it last", async () => {
    const review = await stateId("Waiting for review");
    const [main] = (await readDesign(INES, "TIX")).boards;
    const { id } = main.columns.find((c) => c.stateIds.length === 1 && c.stateIds[0] === review)!;
    const known = (await runningWorkflow()).states.find((s) => s.id === review)!.limit;
    const sized = { max: 60, firm: false, min: null, minFirm: false, unit: "size" as const };
    const shown = async () =>
      limitOfColumn((await readBoard(INES, "TIX", main.id)).limits, { id, stateIds: [review] });
    await publishChange((w) =>
      changeState(w, review, { limit: { ...sized, fixedDatePasses: true } }),
    );
    expect(await shown()).toMatchObject({ max: 60, unit: "size", fixedDatePasses: true });
    await storeDraft(INES, changeState(await runningWorkflow(), review, { expectedDays: 2 }));
    const { version } = await design(main.id);
    await limitColumn({ id, boardId: main.id }, version, { max: 70, unit: "size" });
    const { drafts, limitChanges } = await readDesign(INES, "TIX");
    const drafted = drafts[0].definition.states.find((s) => s.id === review)!;
    expect(drafted.limit).toEqual({ ...sized, max: 70 });
    expect(limitChanges.slice(0, 2).map((change) => change.words)).toEqual([
      "at most 70 in size",
      "at most 60 in size; fixed dates may pass",
    ]);
    await publishChange((w) => changeState(w, review, { limit: known }));
    expect(await shown()).toMatchObject({ max: known?.max ?? null, unit: known?.unit ?? "items" });
  });

  test("and which counts all that is there, also on a board that shows only some of it", async () => {
    const test = await stateId("Waiting for test");
    const board = made({
      scope: { kind: "compare", fact: "priority", op: "is", value: "urgent" },
      columns: [column("Waits", test)],
    });
    await save(board);
    const { columns, cards, limits } = await readBoard(INES, "TIX", board.id);
    const shown = cards.filter((c) => c.stateId === test).length;
    const beside = limitOfColumn(limits, columns[0])!;
    expect(beside.max).not.toBeNull();
    expect(beside.count + shown).toBe(await countIn("Waiting for test"));
    expect(beside.count).toBeGreaterThan(0);
    await edit({ kind: "remove", boardId: board.id });
  });

  test("beside that of a column of several, which becomes the state's when it stays alone", async () => {
    const [first, second] = [await stateId("Ready"), await stateId("Waiting for review")];
    const known = (await inProcess(first))[0];
    const board = made({ columns: [column("Waits", first, second)] });
    await save(board);
    const [{ id }] = board.columns;
    await limit(board.id, id, 40);
    await limit(board.id, id, 30, second);
    await limit(board.id, id, null, first);
    const limitsAt = async () => {
      const { columns, limits } = await readBoard(INES, "TIX", board.id);
      return { own: limitOfColumn(limits, columns[0]), states: limitsOfStates(limits, columns[0]) };
    };
    expect(await limitsAt()).toMatchObject({
      own: { max: 40 },
      states: [{ ownerId: second, max: 30, maxFirm: true }],
    });
    expect(await refusalOf(limit(board.id, id, 3, await stateId("Building")))).toBe("not found");
    const { version, ...design } = {
      ...board,
      ...(await readDesign(INES, "TIX")).boards.find((b) => b.id === board.id)!,
    };
    await save({ ...design, version, columns: [{ ...board.columns[0], stateIds: [first] }] });
    expect(await inProcess(first)).toEqual([40]);
    expect(await limitsAt()).toMatchObject({ own: { ownerId: first, max: 40 }, states: [] });
    await limit(board.id, id, known);
    await edit({ kind: "remove", boardId: board.id });
  });
});

describe("limits of a board that counts only some items", () => {
  const urgentIn = async (title: string, priority: "urgent" | "normal") => {
    const id = await itemIn(NOOR, title, "Ready");
    await send(NOOR, id, { kind: "edit", seenVersion: await seen(id), changes: { priority } });
    return id;
  };

  test("are about what the board shows: what is outside it neither fills them nor is held by them", async () => {
    const building = column("At work", await stateId("Building"), await stateId("In review"));
    const board = made({
      scope: { kind: "compare", fact: "priority", op: "is", value: "urgent" },
      columns: [building],
    });
    await save(board);
    const held = (await readBoard(INES, "TIX", board.id)).cards.filter((c) =>
      building.stateIds.includes(c.stateId),
    ).length;
    await limit(board.id, building.id, held + 1);
    for (const n of [1, 2, 3]) await move(NOOR, await urgentIn(`Usual ${n}`, "normal"), "Building");
    await move(NOOR, await urgentIn("First urgent", "urgent"), "Building");
    const second = await urgentIn("Second urgent", "urgent");
    expect(await refusalOf(move(NOOR, second, "Building"))).toBe("limit");
    await send(NOOR, second, {
      kind: "edit",
      seenVersion: await seen(second),
      changes: { priority: "high" },
    });
    await move(NOOR, second, "Building");
    await edit({ kind: "remove", boardId: board.id });
  });

  test("cannot depend on who looks, whichever came first", async () => {
    const building = column("At work", await stateId("Building"), await stateId("In review"));
    const board = made({
      scope: { kind: "compare", fact: "assigneeId", op: "is", value: { who: "me" } },
      columns: [building],
    });
    await save(board);
    expect(await refusalOf(limit(board.id, building.id, 3))).toBe("invalid");
    await save({ ...board, scope: null }, (await design(board.id)).version);
    await limit(board.id, building.id, 30);
    const { version } = await design(board.id);
    expect(await refusalOf(save(board, version))).toBe("invalid");
    await limit(board.id, building.id, null);
    await save(board, (await design(board.id)).version);
    await edit({ kind: "remove", boardId: board.id });
  });
});

test.each([
  ["assignee", ["Nobody yet", "Noor Bakri"]],
  ["team", ["No team", "Ticketing"]],
  ["sprint", ["No sprint", "Sprint 20"]],
  ["release", ["No release", "Crossing 19"]],
  ["priority", ["urgent", "low"]],
  ["label", ["No label", "storm"]],
  ["parent", ["Under nothing"]],
] as const)("columns by %s: every open item stands in exactly one", async (columnsBy, names) => {
  const board = made({ columnsBy, name: columnsBy });
  await save(board);
  const view = await readBoard(INES, "TIX", board.id);
  for (const name of names) expect(view.columns.map((c) => c.stage)).toContain(name);
  const { standsIn } = await import("@/core/board/columns-by");
  const lost = view.cards.filter(
    (card) => view.columns.filter((c) => standsIn(view.board, c, card)).length !== 1,
  );
  expect(lost.map((c) => c.key)).toEqual([]);
  const [{ n }] = await database()
    .select({ n: sql<number>`count(*)::int` })
    .from(item)
    .where(
      and(
        eq(item.projectId, "tix"),
        isNull(item.withdrawnAt),
        sql`${item.stateKind} <> 'finished'`,
      ),
    );
  expect(view.cards.length).toBe(n);
});

test("under another item: only under one of a higher level, in the history, and undone", async () => {
  const above = await itemIn(NOOR, "The larger one");
  const key = (
    await readItem(
      NOOR,
      `TIX-${(await database().select().from(item).where(eq(item.id, above)))[0].number}`,
    )
  ).key;
  const task = (
    await createItem(NOOR, {
      commandId: randomUUID(),
      projectKey: "TIX",
      parentId: null,
      fields: { title: "The smaller one", typeId: "task" },
    })
  ).card;
  const commandId = randomUUID();
  await send(NOOR, task.id, { kind: "put under", parentKey: key }, commandId);
  const view = await readItem(NOOR, task.key);
  expect([view.parent?.key, view.history[0].words]).toEqual([key, `put it under ${key}`]);
  await send(NOOR, task.id, { kind: "undo", commandId });
  expect((await readItem(NOOR, task.key)).parent).toBeNull();
  expect(await refusalOf(send(NOOR, above, { kind: "put under", parentKey: task.key }))).toBe(
    "invalid",
  );
  expect(await refusalOf(send(NOOR, above, { kind: "put under", parentKey: key }))).toBe("invalid");
  expect(await refusalOf(send(NOOR, task.id, { kind: "put under", parentKey: "GATE-1" }))).toBe(
    "invalid",
  );
  expect(await refusalOf(send(ARTHUR, task.id, { kind: "put under", parentKey: key }))).toBe(
    "not allowed",
  );
});

test("a free board: items stand where they were put, in order, and nothing else of them changes", async () => {
  const board = made({
    columnsBy: "free",
    name: "Talk about",
    columns: [column("Today"), column("Later")],
  });
  await save(board);
  const [a, b] = [await itemIn(NOOR, "First"), await itemIn(NOOR, "Second")];
  const before = [await seen(a), await seen(b)];
  const place = (
    itemId: string,
    columnId: string | null,
    below: string | null = null,
    viewer = NOOR,
  ) => edit({ kind: "place", boardId: board.id, itemId, columnId, below }, viewer);
  await place(a, board.columns[0].id);
  await place(b, board.columns[0].id, a);
  const order = async () =>
    Object.entries((await readBoard(NOOR, "TIX", board.id)).board.places)
      .sort(([, x], [, y]) => (x.rank < y.rank ? -1 : 1))
      .map(([id]) => id);
  expect(await order()).toEqual([a, b]);
  await place(b, board.columns[0].id);
  expect(await order()).toEqual([b, a]);
  await place(a, null);
  expect(await order()).toEqual([b]);
  expect([await seen(a), await seen(b)]).toEqual(before);
  expect(await refusalOf(place(a, board.columns[1].id, null, ARTHUR))).toBe("not allowed");
  expect(await refusalOf(place(a, "nowhere"))).toBe("not found");
  expect(
    await refusalOf(
      edit({ kind: "place", boardId: "tix-board", itemId: a, columnId: null, below: null }, NOOR),
    ),
  ).toBe("invalid");
  await edit({ kind: "remove", boardId: board.id });
  expect(
    await database().select().from(boardPlace).where(eq(boardPlace.boardId, board.id)),
  ).toEqual([]);
});

test("columns are put into another order at once, limits and all", async () => {
  const { columns } = await design("tix-board");
  const turned = [...columns].reverse().map((c) => c.id);
  await edit({ kind: "order columns", boardId: "tix-board", columnIds: turned });
  const view = await readBoard(NOOR, "TIX");
  expect(view.columns.map((c) => c.id)).toEqual(turned);
  const reviewing = view.columns.find((c) => c.name === "reviewing")!;
  expect(limitOfColumn(view.limits, reviewing)).toMatchObject({ max: 3, maxFirm: true });
  await edit({ kind: "order columns", boardId: "tix-board", columnIds: columns.map((c) => c.id) });
});

test("what makes no sense as a board is refused, and somebody else's change is not overwritten", async () => {
  const building = await stateId("Building");
  const [foreign] = await database()
    .select()
    .from(state)
    .where(eq(state.workflowId, "gate-main"))
    .limit(1);
  const nonsense = [
    made({}),
    made({ columns: [column("Empty")] }),
    made({ columns: [column("A", building), column("B", building)] }),
    made({ columns: [column("Foreign", foreign.id)] }),
    made({ columnsBy: "team", columns: [column("A", building)] }),
    made({ columnsBy: "free", columns: [column("A", building)] }),
  ];
  for (const board of nonsense) expect(await refusalOf(save(board))).toBe("invalid");
  const board = await design("tix-board");
  await save({ ...board, name: "Everything we do" });
  expect(await refusalOf(save({ ...board, name: "Mine" }))).toBe("conflict");
  expect((await design("tix-board")).name).toBe("Everything we do");
  expect(await refusalOf(edit({ kind: "remove", boardId: "tix-board" }))).toBe("invalid");
  expect(await refusalOf(edit({ kind: "remove", boardId: "gate-board" }))).toBe("not found");
  for (const viewer of [NOOR, ARTHUR])
    expect(await refusalOf(edit({ kind: "remove", boardId: "tix-people" }, viewer))).toBe(
      "not allowed",
    );
});

test("boards follow their workflows: a renamed state keeps its column, a state that goes leaves it, a type on another workflow is still shown", async () => {
  const board = made({
    name: "Follows",
    columns: [column("Hands on", await stateId("Building"), await stateId("In review"))],
  });
  await save(board);
  const [building, review] = [await stateId("Building"), await stateId("In review")];
  await publishChange((w) => removeState(changeState(w, building, { name: "Crafting" }), review), {
    [review]: building,
  });
  const stored = await database()
    .select({ stateId: columnState.stateId })
    .from(columnState)
    .innerJoin(boardColumn, eq(boardColumn.id, columnState.columnId))
    .where(eq(boardColumn.boardId, board.id));
  expect(stored.map((s) => s.stateId)).toEqual([building]);
  expect(
    (await readBoard(NOOR, "TIX", board.id)).cards.filter((c) => c.stateId === building).length,
  ).toBeGreaterThan(3);
  await editType(INES, "TIX", {
    kind: "save",
    type: {
      id: "story",
      name: "Story",
      level: 1,
      workflowId: "tix-main",
      glyph: "peak",
      template: "",
    },
    newStates: {},
  });
  await move(NOOR, await itemIn(NOOR, "Goes on", "Ready"), "Crafting");
});

test("the history of all of it agrees with what is stored", async () =>
  expect((await checkItems()).findings).toEqual([]));

test("two boards of one name are refused, and two columns of one; the same board keeps its name", async () => {
  const first = made({ columnsBy: "free", columns: [column("Now"), column("Later")] });
  await save(first);
  const twin = made({ ...first, id: randomUUID(), name: ` ${first.name.toUpperCase()} ` });
  expect(await refusalOf(save({ ...twin, columns: [column("Now")] }))).toBe("invalid");
  const doubled = made({ columnsBy: "free", columns: [column("Now"), column("now ")] });
  expect(await refusalOf(save(doubled))).toBe("invalid");
  await save({ ...first, version: (await design(first.id)).version });
  expect((await design(first.id)).name).toBe(first.name);
});
