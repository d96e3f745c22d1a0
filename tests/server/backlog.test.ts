import { and, asc, eq, inArray, isNull, sql } from "drizzle-orm";
import { BACKLOG_PAGE, type BacklogRows } from "@/core/plan/backlog-view";
import { randomUUID } from "node:crypto";
import { DAY } from "@/core/calendar/instant";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { database } from "@/db/connection";
import { comment, item, timeEntry } from "@/db/schema";
import { enterBoard } from "@/server/board/enter";
import { aroundItems } from "@/server/item/list/around";
import { writeCursor } from "@/server/item/list/cursor";
import { readBoard } from "@/server/board/read";
import type { CountedView } from "@/core/item/list/counted-values";
import type { Condition } from "@/core/condition/condition";
import { readBacklog } from "@/server/plan/backlog";
import { countBacklog, readBacklogRows, type RowsAsked } from "@/server/plan/backlog-rows";
import { keepBacklogLook } from "@/server/plan/backlog-look";
import { USUAL_BACKLOG_LOOK } from "@/core/plan/backlog-look";
import { sectionsIn } from "@/core/plan/backlog-sections";
import { readReach } from "@/server/plan/reach";
import { itemIn, move, refusalOf, stateId } from "./setup/board";
import { ARTHUR, INES, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const project = "TIX";

/** The whole backlog, page by page. */
async function allPages(viewer = INES): Promise<string[]> {
  let read = await readBacklogRows(viewer, project);
  const ids = read.cards.map((c) => c.id);
  while (read.next !== null) {
    read = await readBacklogRows(viewer, project, { after: read.next });
    ids.push(...read.cards.map((c) => c.id));
  }
  return ids;
}

describe("a backlog of more than a page", () => {
  let inOrder: string[];

  beforeAll(async () => {
    const waiting = await stateId("Backlog");
    // Everything that ever went live waits again.
    await database()
      .update(item)
      .set({ stateId: waiting, stateKind: "unstarted", finishedAt: null })
      .where(eq(item.stateId, await stateId("Live")));
    const rows = await database()
      .select({ id: item.id })
      .from(item)
      .where(and(eq(item.stateId, waiting), isNull(item.withdrawnAt)))
      .orderBy(asc(item.rank), asc(item.number));
    inOrder = rows.map((r) => r.id);
    expect(inOrder.length).toBeGreaterThan(2 * BACKLOG_PAGE);
  });

  test("comes page by page, each item once, in order of rank", async () => {
    const first = await readBacklogRows(INES, project);
    expect(first.cards).toHaveLength(BACKLOG_PAGE);
    expect(await allPages()).toEqual(inOrder);
    expect((await readBacklog(INES, project)).total).toBe(inOrder.length);
  });

  test("goes on behind an item that was pulled meanwhile", async () => {
    const first = await readBacklogRows(INES, project);
    const last = first.cards.at(-1)!;
    await move(INES, last.id, "Ready");
    const following = await readBacklogRows(INES, project, { after: first.next! });
    expect(following.cards[0].id).toBe(inOrder[BACKLOG_PAGE]);
    inOrder = inOrder.filter((id) => id !== last.id);
  });

  test("ends with a page that is exactly full", async () => {
    const [end] = await database()
      .select({ id: item.id, rank: item.rank })
      .from(item)
      .where(eq(item.id, inOrder[inOrder.length - BACKLOG_PAGE - 1]));
    const { cards, next } = await readBacklogRows(INES, project, {
      after: writeCursor([end.rank, end.id]),
    });
    expect([cards.length, next]).toEqual([BACKLOG_PAGE, null]);
  });

  test("has nothing in it that somebody may not see, and counts none of that", async () => {
    const hidden = { restricted: true, assigneeId: "ivo", reviewerId: null, createdBy: "ivo" };
    await database().update(item).set(hidden).where(eq(item.id, inOrder[3]));
    expect(await allPages(NOOR)).toEqual(inOrder.filter((id) => id !== inOrder[3]));
    expect((await readBacklog(NOOR, project)).total).toBe(inOrder.length - 1);
    // It cannot be named as a place among the others either.
    expect(await refusalOf(readBacklogRows(NOOR, project, { after: inOrder[3] }))).toBe("invalid");
  });
});

test("what it is pulled into holds what the board counts there, seen or not", async () => {
  const id = await itemIn(INES, "Not for everybody", "Ready");
  await database().update(item).set({ restricted: true }).where(eq(item.id, id));
  const { columns, cards, hidden } = await readBoard(NOOR, project);
  const { pulledInto } = await readBacklog(NOOR, project);
  expect(pulledInto?.column.stage).toBe("Ready");
  const seen = cards.filter((c) => columns[0].stateIds.includes(c.stateId)).length;
  const unseen = columns[0].stateIds.reduce((sum, state) => sum + (hidden[state] ?? 0), 0);
  expect(unseen).toBeGreaterThan(0);
  expect(pulledInto?.holds).toBe(seen + unseen);
});

test("withdrawn items do not wait", async () => {
  const id = await itemIn(INES, "Thought better of");
  expect(await allPages()).toContain(id);
  await database()
    .update(item)
    .set({ withdrawnAt: sql`now()` })
    .where(eq(item.id, id));
  expect(await allPages()).not.toContain(id);
});

test("of a project that somebody may not see there is none", async () => {
  expect(await refusalOf(readBacklog(ARTHUR, "TIDE"))).toBe("not found");
  expect(await refusalOf(readBacklogRows(ARTHUR, "TIDE"))).toBe("not found");
});

test("days of talk about what waits are told, until it is begun; those of before it waited are not", async () => {
  const id = await itemIn(NOOR, "Talked about", "Ready", "Backlog");
  const { entered } = (
    await database().select({ entered: item.enteredStateAt }).from(item).where(eq(item.id, id))
  )[0];
  await database()
    .update(item)
    .set({ enteredStateAt: entered - 6 * DAY })
    .where(eq(item.id, id));
  const say = (daysAgo: number) =>
    database()
      .insert(comment)
      .values({
        id: randomUUID(),
        itemId: id,
        authorId: "ivo",
        body: "x",
        at: entered - daysAgo * DAY,
      });
  for (const daysAgo of [1, 1, 3, 5, 9]) await say(daysAgo);
  const around = async () => {
    const { ground, reader } = await enterBoard("TIX", {
      viewer: INES,
      boardId: null,
      now: Date.now(),
    });
    return (await aroundItems(reader, INES, ground, [id]))[id];
  };
  expect(await around()).toMatchObject({ talked: 3, worked: false });
  // Time that is recorded says the same: of a day of talk nothing new, of another one more.
  const record = (daysAgo: number) =>
    database()
      .insert(timeEntry)
      .values({
        id: randomUUID(),
        itemId: id,
        personId: "ivo",
        on: isoDate(dayNumber(entered - daysAgo * DAY, "Europe/London")),
        minutes: 30,
        at: entered,
      });
  await record(3);
  expect(await around()).toMatchObject({ talked: 3, worked: true });
  await record(2);
  await record(9);
  expect(await around()).toMatchObject({ talked: 4, worked: true });
  await move(INES, id, "Ready");
  expect((await around())?.talked).toBeUndefined();
});

test("it is narrowed to what is like something, in its order; its lines say how many are hidden", async () => {
  const filter: Condition = {
    kind: "compare",
    fact: "classOfService",
    op: "is",
    value: "standard",
  };
  const [all, some] = [
    await readBacklogRows(INES, "TIX"),
    await readBacklogRows(INES, "TIX", { filter }),
  ];
  const every = await readBacklogRows(INES, "TIX", {
    filter: { kind: "any", of: [filter, { kind: "not", of: filter }] },
  });
  expect(all.matching).toBeNull();
  expect(every.matching).toBe((await readBacklog(INES, "TIX")).total);
  expect(some.matching).toBeLessThan(every.matching!);
  expect(some.cards.every(({ classOfService }) => classOfService === "standard")).toBe(true);
  const order = all.cards.filter(({ classOfService }) => classOfService === "standard");
  expect(some.cards.slice(0, order.length).map(({ id }) => id)).toEqual(order.map(({ id }) => id));
  const [reach, narrowed] = [
    await readReach(INES, "TIX"),
    await readReach(INES, "TIX", { filter }),
  ];
  expect(narrowed.reach).toEqual(reach.reach);
  expect(narrowed.hiddenAfter.length).toBeGreaterThan(reach.hiddenAfter.length);
  expect(await refusalOf(readBacklogRows(OSKAR, "TIDE", { filter }))).toBe("not found");
});

describe("a backlog in parts", () => {
  const all: Condition = { kind: "all", of: [] };
  const high: Condition = { kind: "compare", fact: "priority", op: "is", value: "high" };

  /** Every item of each part, by its name. */
  async function whole(order: "by state" | "by sprint", viewer = INES, filter?: Condition) {
    const view = await readBacklog(viewer, project);
    const parts = sectionsIn(view, order).map(async ({ id, name }): Promise<[string, string[]]> => {
      const ids: string[] = [];
      let after: string | undefined;
      let matching: number | null;
      do {
        const asked: RowsAsked = { order, section: id, after, filter };
        const read: BacklogRows = await readBacklogRows(viewer, project, asked);
        ids.push(...read.cards.map((card) => card.id));
        matching = read.matching;
        after = read.next ?? undefined;
      } while (after !== undefined);
      expect(matching).toBe(ids.length);
      return [name, ids];
    });
    return new Map(await Promise.all(parts));
  }

  test("by state: what is chosen next, and all that waits, each once", async () => {
    const parts = await whole("by state");
    const waiting = [...parts].filter(([name]) => name !== "Ready").flatMap(([, ids]) => ids);
    expect(waiting.toSorted()).toEqual((await allPages()).toSorted());
    const held = (await readBacklog(INES, project)).pulledInto!.holds;
    expect(parts.get("Ready")).toHaveLength(held);
    // One of them is not for everybody.
    expect((await whole("by state", NOOR)).get("Ready")).toHaveLength(held - 1);
  });

  test("by sprint: begun or not, each once; what is in none waits", async () => {
    const parts = await whole("by sprint");
    const rows = await database().select().from(item);
    const known = new Map(rows.map((row) => [row.id, row]));
    const ids = [...parts.values()].flat();
    expect(new Set(ids).size).toBe(ids.length);
    const running = parts.get("Sprint 21")!.map((id) => known.get(id)!);
    expect(running.some(({ stateKind }) => stateKind === "working")).toBe(true);
    expect(running.every(({ sprintId }) => sprintId === "tix-sprint-21")).toBe(true);
    for (const id of await allPages()) expect(ids).toContain(id);
  });

  test("counted values are of what its parts show, narrowed like them", async () => {
    for (const order of ["by state", "by sprint"] as const)
      for (const narrows of [false, true]) {
        const filter = narrows ? high : all;
        const parts: Map<string, string[]> = await whole(order, NOOR, filter);
        const ids = [...parts.values()].flat();
        const counts = ["priority", "typeId"] as const;
        const told: CountedView = await countBacklog(NOOR, project, { order, filter, counts });
        expect(told.total.count).toBe(ids.length);
        const rows = await database().select().from(item).where(inArray(item.id, ids));
        const [priority, type] = told.fields;
        // A field is counted as if it were not narrowed by itself.
        if (narrows) expect(priority.values.length).toBeGreaterThan(1);
        for (const { key, count } of type.values)
          expect(count).toBe(rows.filter(({ typeId }) => typeId === key).length);
      }
  });

  test("each row says what its columns ask for, and what it stands under as far as one sees that", async () => {
    const ask = (viewer: typeof INES) =>
      readBacklogRows(viewer, project, {
        order: "by sprint",
        section: "sprint:tix-sprint-22",
        columns: ["parent", "estimate", "labels"],
      });
    const { cards, values, parents } = await ask(NOOR);
    for (const card of cards) expect(values[card.id]).toEqual([null, card.estimate, card.labels]);
    const child = cards.find(({ id }) => parents[id])!;
    const [{ title }] = await database().select().from(item).where(eq(item.id, child.parentId!));
    expect(parents[child.id].title).toBe(title);
    const hidden = { restricted: true, assigneeId: "ivo", reviewerId: null, createdBy: "ivo" };
    await database().update(item).set(hidden).where(eq(item.id, child.parentId!));
    expect((await ask(NOOR)).parents[child.id]).toBeUndefined();
  });

  test("how somebody looks at it is theirs alone; a part that is gone is said", async () => {
    const look = { order: "by sprint", columns: ["parent"], counts: ["priority"] } as const;
    await keepBacklogLook(NOOR, project, look);
    await keepBacklogLook(NOOR, project, { ...look, order: "by state" });
    expect((await readBacklog(NOOR, project)).look).toEqual({ ...look, order: "by state" });
    expect((await readBacklog(INES, project)).look).toEqual(USUAL_BACKLOG_LOOK);
    expect(await refusalOf(keepBacklogLook(ARTHUR, "TIDE", look))).toBe("not found");
    expect(await refusalOf(countBacklog(ARTHUR, "TIDE", { ...look, counts: [] }))).toBe(
      "not found",
    );
    expect(await refusalOf(readBacklogRows(NOOR, project, { section: "next" }))).toBe("invalid");
  });
});
