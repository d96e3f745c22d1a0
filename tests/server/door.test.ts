import { randomUUID } from "node:crypto";
import { and, eq, inArray } from "drizzle-orm";
import { database, transact } from "@/db/connection";
import { item, itemEvent, project, state, workflow } from "@/db/schema";
import { checkItems } from "@/server/item/check";
import { allThroughDoor } from "@/server/item/door";
import { enterItem, enterNew } from "@/server/item/enter";
import type { Ask, Errand } from "@/server/item/errand";
import { enterProject } from "@/server/people/access";
import { NEW_ITEM } from "@/core/item/new-item";
import { itemIn, refusalOf, stateId } from "./setup/board";
import { INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const access = () =>
  enterProject({ reader: database(), viewer: NOOR, where: { key: "TIX" }, action: "edit item" });
const errand = async (itemId: string, ask: Ask, more: Partial<Errand> = {}): Promise<Errand> => ({
  on: { itemId, access: await access() },
  commandId: randomUUID(),
  ask,
  ...more,
});
const stateOf = async (id: string) =>
  (await database().select({ s: item.stateId }).from(item).where(eq(item.id, id)))[0].s;
const moveTo = async (to: string, from = "Ready"): Promise<Ask> => ({
  kind: "move",
  from: await stateId(from),
  to: await stateId(to),
  answers: { assigneeId: "noor" },
});

test("several errands go through at once, in their order, each with its own history", async () => {
  const ids = [await itemIn(NOOR, "One", "Ready"), await itemIn(NOOR, "Two", "Ready")];
  const after = await transact(async (tx) =>
    allThroughDoor(tx, NOOR, [
      await errand(ids[0], await moveTo("Building")),
      await errand(ids[1], { kind: "comment", body: "with it" }),
      await errand(ids[0], { kind: "comment", body: "and on" }),
    ]),
  );
  // The third sees what the first left: its number follows on.
  expect(after.map((a) => a.id)).toEqual([ids[0], ids[1], ids[0]]);
  expect(after[2].version).toBe(after[0].version + 1);
  expect(await stateOf(ids[0])).toBe(await stateId("Building"));
  expect((await checkItems()).findings).toEqual([]);
});

test("a refusal takes all back, unless its item may be left as it is", async () => {
  const ids = [await itemIn(NOOR, "Three", "Ready"), await itemIn(NOOR, "Four", "Ready")];
  const both = async (more: Partial<Errand>) =>
    transact(async (tx) =>
      allThroughDoor(tx, NOOR, [
        await errand(ids[0], await moveTo("Building")),
        await errand(ids[1], await moveTo("Live"), more),
      ]),
    );
  expect(await refusalOf(both({}))).toBe("no such move");
  expect(await stateOf(ids[0])).toBe(await stateId("Ready"));
  const [moved, left] = await both({ ifRefused: "leave" });
  expect(moved.stateId).toBe(await stateId("Building"));
  expect(left.stateId).toBe(await stateId("Ready"));
});

test("errands that come from two sides lock their items in one order, so that none waits in a circle", async () => {
  const ids = [await itemIn(NOOR, "Five"), await itemIn(NOOR, "Six")];
  const said = (list: string[]) =>
    transact(
      async (tx) =>
        allThroughDoor(
          tx,
          NOOR,
          await Promise.all(list.map((id) => errand(id, { kind: "comment", body: "hello" }))),
        ),
      1,
    );
  // One attempt each: a deadlock would end one of them.
  await Promise.all(
    Array.from({ length: 10 }, (_, i) => said(i % 2 === 0 ? ids : [...ids].reverse())),
  );
  const rows = await database()
    .select()
    .from(itemEvent)
    .where(and(inArray(itemEvent.itemId, ids), eq(itemEvent.kind, "commented")));
  expect(rows).toHaveLength(20);
});

test("a new item and what is asked of it come through in one act, under one key", async () => {
  const commandId = randomUUID();
  const itemId = randomUUID();
  const { id } = await transact(async (tx) => {
    const entered = await enterProject({
      reader: tx,
      viewer: NOOR,
      where: { key: "TIX" },
      action: "create item",
    });
    const fields = { ...NEW_ITEM, title: "Born with words", typeId: "story" };
    const say = { kind: "comment" as const, body: "storm" };
    const [, said] = await allThroughDoor(tx, NOOR, [
      {
        on: await enterNew(tx, entered, "story", itemId),
        commandId,
        ask: { kind: "create", fields, place: "last" },
      },
      { on: { itemId, access: entered }, commandId, ask: say },
    ]);
    return said;
  });
  expect(id).toBe(itemId);
  const rows = await database().select().from(itemEvent).where(eq(itemEvent.commandId, commandId));
  expect(rows.map((r) => r.kind).sort()).toEqual(["commented", "created"]);
});

test("rights are asked on entering: of the project, of the role, of the item", async () => {
  const id = await itemIn(INES, "Closed");
  await database().update(item).set({ restricted: true }).where(eq(item.id, id));
  const outsider = { personId: "nobody", name: "Nobody", administrator: false };
  const enter = (who: typeof outsider, itemId = id) =>
    refusalOf(transact((tx) => enterItem(tx, who, itemId, "move item")));
  expect(await enter(NOOR)).toBe("not found");
  expect(await enter(outsider, await itemIn(NOOR, "Open"))).toBe("not allowed");
  expect(await enter(INES, randomUUID())).toBe("not found");
  expect(await enter(INES)).toBe("nothing refused");
});

test("an item whose type follows another workflow by the time its lock is got is read once more", async () => {
  const id = await itemIn(NOOR, "Changing", "Ready");
  const [{ other }] = await database()
    .select({ other: workflow.id })
    .from(workflow)
    .innerJoin(project, eq(project.id, workflow.projectId))
    .where(and(eq(project.key, "TIX"), eq(workflow.id, "tix-tasks")));
  const [task] = await database().select().from(state).where(eq(state.workflowId, other)).limit(1);
  let changed = () => {};
  const begun = new Promise<void>((resolve) => (changed = resolve));
  let commit = () => {};
  const waiting = new Promise<void>((resolve) => (commit = resolve));
  const changing = database().transaction(async (tx) => {
    await tx.update(item).set({ typeId: "task", stateId: task.id }).where(eq(item.id, id));
    changed();
    await waiting;
  });
  await begun;
  const entering = transact((tx) => enterItem(tx, NOOR, id, "move item"));
  await new Promise((resolve) => setTimeout(resolve, 100));
  commit();
  await changing;
  expect((await entering).workflow.id).toBe(other);
});
