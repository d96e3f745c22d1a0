import { and, asc, eq, isNull, sql } from "drizzle-orm";
import { BACKLOG_PAGE } from "@/core/plan/backlog-view";
import { randomUUID } from "node:crypto";
import { DAY } from "@/core/calendar/instant";
import { database } from "@/db/connection";
import { comment, item } from "@/db/schema";
import { enterBoard } from "@/server/board/enter";
import { aroundItems } from "@/server/item/list/around";
import { writeCursor } from "@/server/item/list/cursor";
import { readBoard } from "@/server/board/read";
import type { Condition } from "@/core/condition/condition";
import { readBacklog, readBacklogRows } from "@/server/plan/backlog";
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
  expect((await around())?.talked).toBe(3);
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
