import { randomUUID } from "node:crypto";
import { asc, desc, eq, ne, sql } from "drizzle-orm";
import { database } from "@/db/connection";
import {
  block,
  comment,
  domainEvent,
  item,
  itemEvent,
  membership,
  person,
  stay,
  wipLimit,
} from "@/db/schema";
import { readBoard } from "@/server/board/read";
import { checkItems } from "@/server/item/check";
import { createItem } from "@/server/item/create";
import { findItems } from "@/server/find/items";
import { readItem } from "@/server/item/read";
import { commandRequest, createItemBody } from "@/core/item/request";
import { readDesign } from "@/server/workflow/read";
import { readLearn } from "@/server/flow/read";
import { readSummary } from "@/server/flow/summary";
import {
  columnOf,
  countIn,
  itemIn,
  limitColumn,
  move,
  refusalOf,
  send,
  stateId,
} from "./setup/board";
import { INES, IVO, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const snapshot = async (id: string) =>
  (await database().select().from(item).where(eq(item.id, id)))[0];

test("rebuilding every item of the demo from its events gives what is stored", async () => {
  const result = await checkItems();
  expect(result.findings).toEqual([]);
  expect(result.items).toBeGreaterThan(1_400);
  expect(result.events).toBeGreaterThan(15_000);
});

test("the demo world is what it promises: nine months, four rules kept, awkward cases on the board", async () => {
  const {
    rows: [facts],
  } = await database().execute(sql`
    select min(created_at) as first, count(*)::int as items,
      count(*) filter (where reviewer_id = assignee_id)::int as own_review,
      count(*) filter (where state_kind = 'finished' and outcome is null)::int as no_outcome,
      count(*) filter (where returns > 0)::int as returned,
      count(*) filter (where jsonb_array_length(open_blockers) > 0)::int as blocked
    from item`);
  expect(Date.now() - Date.parse(String(facts.first))).toBeGreaterThan(265 * 86_400_000);
  expect(facts).toMatchObject({ own_review: 0, no_outcome: 0 });
  expect(Number(facts.returned)).toBeGreaterThan(100);
  expect(Number(facts.blocked)).toBeGreaterThan(0);
  const {
    rows: [{ open }],
  } = await database().execute(
    sql`select count(*)::int as open from report where status = 'unjudged'`,
  );
  expect(open).toBeGreaterThanOrEqual(15);
  expect(open).toBeLessThanOrEqual(25);
  const { pulse, limitsBroken } = await readSummary(INES, "TIX");
  expect(limitsBroken.length).toBeGreaterThan(0);
  expect(pulse.oldest!.age).toBeGreaterThan(pulse.expectation.days);
});

describe("commands", () => {
  test("sent twice, carried out once; the same key for something else is refused", async () => {
    const id = await itemIn(NOOR, "Twice");
    const commandId = randomUUID();
    const command = { kind: "comment", body: "once" } as const;
    expect((await send(NOOR, id, command, commandId)).fresh).toBe(true);
    expect((await send(NOOR, id, command, commandId)).fresh).toBe(false);
    expect(await database().select().from(comment).where(eq(comment.itemId, id))).toHaveLength(1);
    expect(await refusalOf(send(IVO, id, command, commandId))).toBe("invalid");
    const other = await itemIn(NOOR, "Other");
    expect(await refusalOf(send(NOOR, other, command, commandId))).toBe("invalid");
    // The same key for another kind of command is refused, not swallowed.
    expect(
      await refusalOf(send(NOOR, id, { kind: "block", cause: "x", waitingFor: null }, commandId)),
    ).toBe("invalid");
  });

  test("an item is given to nobody who is not of the project, but may stay with somebody who was", async () => {
    await database()
      .insert(person)
      .values({ id: "runa", name: "Runa Holt", email: "runa.holt@saltmarsh.example" });
    const id = await itemIn(NOOR, "For a stranger");
    const edit = async (changes: object) =>
      send(NOOR, id, { kind: "edit", seenVersion: (await snapshot(id)).version, changes });
    for (const field of ["assigneeId", "reviewerId"])
      expect(await refusalOf(edit({ [field]: "runa" }))).toBe("invalid");
    expect(
      await refusalOf(
        createItem(NOOR, {
          commandId: randomUUID(),
          projectKey: "TIX",
          parentId: null,
          fields: { title: "Hers", typeId: "bug", assigneeId: "runa" },
        }),
      ),
    ).toBe("invalid");
    await database()
      .insert(membership)
      .values({ projectId: "tix", personId: "runa", role: "member" });
    await edit({ assigneeId: "runa" });
    await database().delete(membership).where(eq(membership.personId, "runa"));
    await edit({ assigneeId: "runa", estimate: 3 });
    expect(await snapshot(id)).toMatchObject({ assigneeId: "runa", estimate: 3 });
  });

  test("creating twice with one key makes one item", async () => {
    const request = {
      commandId: randomUUID(),
      projectKey: "TIX",
      parentId: null,
      fields: { title: "Only one", typeId: "bug" },
    };
    const [a, b] = await Promise.all([createItem(NOOR, request), createItem(NOOR, request)]);
    expect(a.card.id).toBe(b.card.id);
    expect([a.fresh, b.fresh].sort()).toEqual([false, true]);
  });

  test("two edits of one field: the second is shown the first; of two fields: both stay", async () => {
    const id = await itemIn(NOOR, "Edited");
    const edit = (viewer: typeof NOOR, changes: object) =>
      send(viewer, id, { kind: "edit", seenVersion: 1, changes });
    await edit(NOOR, { title: "By Noor" });
    await edit(IVO, { estimate: 5 });
    expect(await refusalOf(edit(IVO, { title: "By Ivo" }))).toBe("conflict");
    expect(await snapshot(id)).toMatchObject({ title: "By Noor", estimate: 5 });
  });

  test("two move the same item at once: one moves it, the other is told where it is", async () => {
    const id = await itemIn(NOOR, "Raced", "Ready");
    const results = await Promise.allSettled([
      move(NOOR, id, "Building"),
      move(IVO, id, "Backlog"),
    ]);
    const refused = results.filter((r) => r.status === "rejected");
    expect(refused).toHaveLength(1);
    expect(await refusalOf(Promise.reject((refused[0] as PromiseRejectedResult).reason))).toBe(
      "moved meanwhile",
    );
  });

  test("links stand on both items and are taken away on both", async () => {
    const [a, b] = [await itemIn(NOOR, "First"), await itemIn(NOOR, "Second")];
    const keyOf = async (id: string) => `TIX-${(await snapshot(id)).number}`;
    await send(NOOR, a, {
      kind: "link",
      linkKind: "duplicates",
      otherKey: (await keyOf(b)).toLowerCase(),
    });
    const views = await Promise.all([
      readItem(NOOR, await keyOf(a)),
      readItem(NOOR, await keyOf(b)),
    ]);
    expect(views.map((v) => v.links.map((l) => `${l.words} ${l.key}`))).toEqual([
      [`duplicates ${await keyOf(b)}`],
      [`is duplicated by ${await keyOf(a)}`],
    ]);
    await send(IVO, b, { kind: "unlink", linkId: views[0].links[0].id });
    expect((await readItem(NOOR, await keyOf(a))).links).toEqual([]);
    expect(
      await refusalOf(send(NOOR, a, { kind: "link", linkKind: "duplicates", otherKey: "TIDE-1" })),
    ).toBe("not found");
    expect(
      await refusalOf(
        send(NOOR, a, { kind: "link", linkKind: "duplicates", otherKey: "TIX-999999" }),
      ),
    ).toBe("not found");
    expect((await checkItems()).findings).toEqual([]);
  });

  test("undo puts back a move with what it set, through the same door", async () => {
    const id = await itemIn(NOOR, "Undone", "Ready");
    const { card } = await move(NOOR, id, "Building");
    const [last] = await database()
      .select()
      .from(itemEvent)
      .where(sql`${itemEvent.itemId} = ${id} and ${itemEvent.seq} = ${card.version}`);
    expect(await refusalOf(send(IVO, id, { kind: "undo", commandId: last.commandId }))).toBe(
      "not allowed",
    );
    await send(NOOR, id, { kind: "undo", commandId: last.commandId });
    expect(await snapshot(id)).toMatchObject({ stateId: await stateId("Ready"), assigneeId: null });
    const view = await readItem(NOOR, `TIX-${(await snapshot(id)).number}`);
    expect(view.history[0].words).toBe("undid the step: it is in Ready as before");
  });

  test("places in the backlog: top, below another, and always in the order that was asked for", async () => {
    const [a, b] = [await itemIn(NOOR, "Low"), await itemIn(NOOR, "Lower")];
    const order = async () => {
      const board = await readBoard(NOOR, "TIX");
      return board.cards
        .filter((c) => [a, b].includes(c.id) || c.stateKind === "unstarted")
        .map((c) => c.id);
    };
    expect((await order()).slice(-2)).toEqual([a, b]);
    await send(NOOR, b, { kind: "place", below: null });
    expect((await order())[0]).toBe(b);
    await send(NOOR, a, { kind: "place", below: b });
    expect((await order()).slice(0, 2)).toEqual([b, a]);
    expect(await refusalOf(send(NOOR, a, { kind: "place", below: randomUUID() }))).toBe("invalid");
  });

  test("stands beside any item of its project, whatever its state: below it or above it, and none of another's", async () => {
    const [one, other] = [await itemIn(NOOR, "Beside"), await itemIn(NOOR, "Started")];
    await move(INES, other, "Ready");
    const ranks = async () => {
      const rows = await database()
        .select({ id: item.id })
        .from(item)
        .where(eq(item.projectId, "tix"))
        .orderBy(asc(item.rank));
      const at = rows.findIndex(({ id }) => id === other);
      return rows.slice(at - 1, at + 2).map(({ id }) => id);
    };
    await send(NOOR, one, { kind: "place", below: null, above: other });
    expect((await ranks()).slice(0, 2)).toEqual([one, other]);
    await send(NOOR, one, { kind: "place", below: other });
    expect((await ranks()).slice(1)).toEqual([other, one]);
    const [elsewhere] = await database()
      .select({ id: item.id })
      .from(item)
      .where(ne(item.projectId, "tix"))
      .limit(1);
    for (const at of [{ below: elsewhere.id }, { below: null, above: elsewhere.id }])
      expect(await refusalOf(send(NOOR, one, { kind: "place", ...at }))).toBe("invalid");
    expect((await ranks()).slice(1)).toEqual([other, one]);
  });

  test("a refused command leaves nothing behind, not even its key", async () => {
    const id = await itemIn(NOOR, "Untouched", "Ready");
    const before = await snapshot(id);
    const commandId = randomUUID();
    const [{ n }] = await database()
      .select({ n: sql<number>`count(*)::int` })
      .from(domainEvent);
    const command = {
      kind: "move",
      from: before.stateId,
      to: await stateId("In test"),
      answers: {},
    } as const;
    expect(await refusalOf(send(NOOR, id, command, commandId))).toBe("no such move");
    expect(await snapshot(id)).toEqual(before);
    expect(
      (
        await database()
          .select({ n: sql<number>`count(*)::int` })
          .from(domainEvent)
      )[0].n,
    ).toBe(n);
    expect((await send(NOOR, id, { kind: "comment", body: "free" }, commandId)).fresh).toBe(true);
  });

  test("history cannot be rewritten in the database", async () => {
    const why = async (query: ReturnType<typeof sql>) =>
      database()
        .execute(query)
        .then(
          () => "done",
          (e: { cause: Error }) => e.cause.message,
        );
    expect(await why(sql`update item_event set field = 'x'`)).toMatch("append-only");
    expect(await why(sql`delete from item_event`)).toMatch("append-only");
  });
});

describe("limits in the database", () => {
  test("a firm maximum refuses a member, and a lead without a reason; the lead's reason is recorded", async () => {
    const column = await columnOf("In review");
    // Expedite items go past it, by their allowance.
    const free = column.max! - (await countIn("In review", "standard"));
    for (let i = 0; i < free; i++)
      await itemIn(NOOR, `Filling ${i}`, "Ready", "Building", "Waiting for review", "In review");
    const id = await itemIn(NOOR, "One too many", "Ready", "Building", "Waiting for review");
    expect(await refusalOf(move(NOOR, id, "In review"))).toBe("limit");
    expect(await refusalOf(move(INES, id, "In review"))).toBe("limit");
    await move(INES, id, "In review", undefined, {
      overrideReason: "The storm took the other tester.",
    });
    const { history } = await readItem(INES, `TIX-${(await snapshot(id)).number}`);
    expect(history.find((h) => h.kind === "overrode")).toMatchObject({
      note: "The storm took the other tester.",
      who: "Ines Dahl",
    });
  });
});

describe("changing the process while it runs", () => {
  test("a column's limit of an older board version is refused", async () => {
    const column = await columnOf("Building");
    const { board } = await readDesign(INES, "TIX");
    await limitColumn(column, board.version, { min: 1, max: 9, maxFirm: true });
    expect(await columnOf("Building")).toMatchObject({ min: 1, max: 9, maxFirm: true });
    // What it was until now is kept, with the time it was in force.
    const kept = await database()
      .select()
      .from(wipLimit)
      .where(eq(wipLimit.ownerId, await stateId("Building")))
      .orderBy(desc(wipLimit.validFrom));
    expect(kept.map((l) => [l.min, l.max, l.validTo])).toEqual([
      [1, 9, null],
      [column.min, column.max, kept[0].validFrom],
    ]);
    expect(await refusalOf(limitColumn(column, board.version, { max: 1 }))).toBe("conflict");
  });
});

describe("hostile input", () => {
  test.each([
    [
      "a title of 301 characters",
      { kind: "edit", seenVersion: 1, changes: { title: "x".repeat(301) } },
    ],
    [
      "a description of 60,000",
      { kind: "edit", seenVersion: 1, changes: { description: "x".repeat(60_000) } },
    ],
    ["a negative estimate", { kind: "edit", seenVersion: 1, changes: { estimate: -1 } }],
    [
      "an estimate that is no number",
      { kind: "edit", seenVersion: 1, changes: { estimate: "many" } },
    ],
    [
      "a due date that is no date",
      { kind: "edit", seenVersion: 1, changes: { dueOn: "2026-02-30" } },
    ],
    ["an unknown command", { kind: "erase" }],
    ["an id that is none", { kind: "lift", blockId: "1; drop table item" }],
    ["an unknown outcome", { kind: "move", from: "a", to: "b", answers: { outcome: "vanished" } }],
  ])("%s does not parse", (_name, body) =>
    expect(commandRequest.safeParse(body).success).toBe(false),
  );

  test("markup, script, quotes and every script of the world are stored and given back as they were", async () => {
    const title = `<script>alert(1)</script> '; drop table item; -- "ø" 船 🚢 \u202Eabc`;
    const id = await itemIn(NOOR, title);
    expect((await snapshot(id)).title).toBe(title);
    expect(
      (await findItems(NOOR, { q: `%_'"\\ & | ! ( <-> ` })).rows.length,
    ).toBeGreaterThanOrEqual(0);
    expect((await findItems(NOOR, { q: `TIX-${(await snapshot(id)).number}` })).rows[0].title).toBe(
      title,
    );
    expect(
      createItemBody.safeParse({
        commandId: "x",
        projectKey: "TIX",
        fields: { title: "", typeId: "bug" },
      }).success,
    ).toBe(false);
  });

  test("ids of nobody and of another project are refused and change nothing", async () => {
    const id = await itemIn(NOOR, "Kept");
    expect(await refusalOf(send(NOOR, randomUUID(), { kind: "comment", body: "x" }))).toBe(
      "not found",
    );
    for (const changes of [
      { assigneeId: "nobody-such" },
      { teamId: "no-team" },
      { typeId: "task" },
      { typeId: "nothing" },
    ])
      expect(await refusalOf(send(NOOR, id, { kind: "edit", seenVersion: 1, changes }))).toBe(
        "invalid",
      );
    const foreign = (await readBoard(NOOR, "GATE")).workflows[0].states[1].id;
    expect(
      await refusalOf(
        send(NOOR, id, { kind: "move", from: await stateId("Backlog"), to: foreign, answers: {} }),
      ),
    ).toBe("no such move");
    expect(await snapshot(id)).toMatchObject({ version: 1 });
  });
});

test("figures after an undone finish are what they were: arrivals, departures, time in states, blocked, percentiles", async () => {
  const id = await itemIn(NOOR, "Finished by mistake", "Ready", "Building");
  await send(NOOR, id, { kind: "block", cause: "no device", waitingFor: null });
  const figures = async () => {
    const now = Date.now();
    const { pulse, paces, ladder, limitsBroken } = await readSummary(INES, "TIX");
    const { report } = await readLearn(INES, "TIX", { period: "4 weeks" }, now);
    // How long the oldest has run goes on meanwhile.
    const { oldest, ...still } = pulse;
    return {
      pulse: { ...still, oldest: [oldest!.itemId, oldest!.age] },
      paces,
      ladder,
      limitsBroken,
      finished: report.finished.map((f) => f.itemId),
      throughput: report.throughput,
      cumulative: report.cumulative.counts,
    };
  };
  const rows = async () => [
    await database().select().from(stay).where(eq(stay.itemId, id)).orderBy(stay.enteredSeq),
    await database().select().from(block).where(eq(block.itemId, id)),
  ];
  const [before, rowsBefore] = [await figures(), await rows()];
  const commandId = randomUUID();
  const from = await stateId("Building");
  await send(
    NOOR,
    id,
    { kind: "move", from, to: await stateId("Closed"), answers: { outcome: "declined" } },
    commandId,
  );
  expect(await figures()).not.toEqual(before);
  await send(NOOR, id, { kind: "undo", commandId });
  expect(await figures()).toEqual(before);
  expect(await rows()).toEqual(rowsBefore);
  expect((await checkItems()).findings).toEqual([]);
});
