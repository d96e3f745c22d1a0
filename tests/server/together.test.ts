import { randomUUID } from "node:crypto";
import { and, inArray, isNull } from "drizzle-orm";
import fc from "fast-check";
import { database, transact, type Transaction } from "@/db/connection";
import { item, itemEvent, stay } from "@/db/schema";
import { projectLimits } from "@/server/board/board-limits";
import { editPersonLimit } from "@/server/board/edit-limits";
import { checkItems } from "@/server/item/check";
import { closeDoor, openDoor, passThrough, throughDoor } from "@/server/item/door";
import type { Ask, Errand } from "@/server/item/errand";
import { enterProject } from "@/server/people/access";
import { Refused } from "@/server/refused";
import { ANSWERS, countIn, itemIn, limitFirmly, stateId } from "./setup/board";
import { INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
/** Ends a transaction of which nothing is to stay. */
class NothingStays extends Error {}

type Take = (tx: Transaction, errands: readonly Errand[]) => Promise<string[]>;

const said = (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => "done",
    (error) => {
      if (error instanceof Refused) return error.refusal.sentence;
      throw error;
    },
  );

/** Each is stored before the next is decided. */
const oneByOne: Take = async (tx, errands) => {
  const told: string[] = [];
  for (const one of errands)
    told.push(await said(tx.transaction((part) => throughDoor(part, INES, one))));
  return told;
};

const together: Take = async (tx, errands) => {
  const door = openDoor(tx, INES);
  const told: string[] = [];
  for (const one of errands) told.push(await said(passThrough(door, one)));
  await closeDoor(door);
  return told;
};

/** What is stored of some items, without times and ids that are made anew each time. */
async function stored(tx: Transaction, ids: readonly string[]) {
  const of = [...ids];
  const items = await tx.select().from(item).where(inArray(item.id, of)).orderBy(item.id);
  const events = await tx
    .select({ of: itemEvent.itemId, seq: itemEvent.seq, kind: itemEvent.kind, new: itemEvent.new })
    .from(itemEvent)
    .where(inArray(itemEvent.itemId, of))
    .orderBy(itemEvent.itemId, itemEvent.seq);
  const open = await tx
    .select({ of: stay.itemId, seq: stay.enteredSeq, state: stay.stateId, kind: stay.kind })
    .from(stay)
    .where(and(inArray(stay.itemId, of), isNull(stay.leftAt)))
    .orderBy(stay.itemId);
  return {
    items: items.map(({ stateId: now, assigneeId, labels, version, readySince, openBlockers }) => ({
      ...{ now, assigneeId, labels, version, ready: readySince !== null },
      blocked: openBlockers.length,
    })),
    events: events.map(({ new: to, ...event }) =>
      event.kind === "overrode" ? { ...event, to } : event,
    ),
    open,
  };
}

async function tried(take: Take, errands: readonly Errand[], ids: readonly string[]) {
  let came: unknown;
  const work = database().transaction(async (tx) => {
    const told = await take(tx, errands);
    came = { told, ...(await stored(tx, ids)) };
    throw new NothingStays();
  });
  await work.catch((error) => {
    if (!(error instanceof NothingStays)) throw error;
  });
  return came;
}

async function limitHands(personId: string, more: number): Promise<void> {
  const set = (max: number) =>
    editPersonLimit(INES, "TIX", {
      ...{ personId, workedOnly: false, min: null, minFirm: false, unit: "items" },
      ...{ level: null, max, maxFirm: true },
    });
  await set(10_000);
  const project = { id: "tix", zone: "Europe/London", defaultSize: 1 };
  const limits = await projectLimits({ reader: database(), project, now: Date.now() });
  const own = limits.find((l) => l.ownerKind === "person" && l.ownerId === personId)!;
  await set(own.count + more);
}

test("errands that go through together come to the same as one after the other, up to their limits", async () => {
  const ids: string[] = [];
  for (const n of [1, 2, 3]) ids.push(await itemIn(NOOR, `Mast ${n}`, "Ready"));
  for (const n of [1, 2]) ids.push(await itemIn(NOOR, `Sail ${n}`, "Ready", "Building"));
  await limitFirmly("Building", (await countIn("Building")) + 1);
  await limitHands("ivo", 1);
  const names = ["Ready", "Building", "Waiting for review", "In review"];
  const [ready, building, waiting, review] = await Promise.all(names.map(stateId));
  const access = await enterProject({
    ...{ reader: database(), viewer: INES, where: { key: "TIX" } },
    action: "edit item",
  });
  const edit = (changes: object): Ask => ({ kind: "edit", seenVersion: 1_000, changes, own: {} });
  const go = (from: string, to: string, assigneeId = "noor"): Ask => ({
    ...{ kind: "move", from, to },
    answers: { ...ANSWERS, assigneeId },
  });
  const asks = fc.constantFrom<Ask>(
    go(ready, building),
    go(ready, building, "ivo"),
    { ...go(ready, building), overrideReason: "The tide" } as Ask,
    go(building, waiting),
    go(waiting, review),
    edit({ assigneeId: "ivo" }),
    edit({ assigneeId: null }),
    edit({ classOfService: "expedite" }),
    edit({ estimate: 5, labels: ["hull"] }),
    { kind: "ready", on: true },
    { kind: "comment", body: "Aye." },
    { kind: "block", cause: "Fog", waitingFor: null },
    { kind: "place", below: null },
  );
  const drawn = fc.array(fc.record({ at: fc.nat(ids.length - 1), ask: asks }), {
    minLength: 2,
    maxLength: 10,
  });
  const errandsOf = (asked: { at: number; ask: Ask }[]): Errand[] =>
    asked.map(({ at, ask }) => ({
      on: { itemId: ids[at], access },
      commandId: randomUUID(),
      ask,
    }));
  await fc.assert(
    fc.asyncProperty(drawn, async (asked) => {
      const errands = errandsOf(asked);
      expect(await tried(together, errands, ids)).toEqual(await tried(oneByOne, errands, ids));
    }),
    { numRuns: 60 },
  );
  const all = errandsOf([
    { at: 0, ask: go(ready, building) },
    { at: 3, ask: go(building, waiting) },
    { at: 1, ask: edit({ assigneeId: "ivo", estimate: 3 }) },
    { at: 2, ask: { kind: "block", cause: "Fog", waitingFor: null } },
  ]);
  await transact((tx) => together(tx, all));
  expect((await checkItems()).findings).toEqual([]);
});
