import { eq } from "drizzle-orm";
import type { FlowHistory } from "@/core/flow/history";
import { closeDatabase, database } from "@/db/connection";
import { item } from "@/db/schema";
import { loadHistories } from "@/server/flow/histories";
import { flowQuery, readLearn } from "@/server/flow/read";
import { readSummary } from "@/server/flow/summary";
import { ANSWERS, itemIn, move, send, TO_LIVE } from "./setup/board";
import { INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const sorted = (histories: FlowHistory[]) =>
  [...histories]
    .sort((a, b) => (a.id < b.id ? -1 : 1))
    .map((h) => ({ ...h, blocks: [...h.blocks].sort((a, b) => a.from - b.from) }));

/** As a process reads them that has read nothing before. */
async function readAnew(): Promise<FlowHistory[]> {
  await closeDatabase();
  return sorted(await loadHistories(database(), "tix"));
}

test("what is kept between reads is what a new process reads, whatever happened in between", async () => {
  const kept = async () => sorted(await loadHistories(database(), "tix"));
  const first = await kept();
  expect(first.length).toBeGreaterThan(400);

  const id = await itemIn(NOOR, "Watched from the start", "Ready", "Building");
  await send(NOOR, id, { kind: "block", cause: "storm", waitingFor: null });
  const [row] = await database().select().from(item).where(eq(item.id, id));
  await send(NOOR, id, { kind: "lift", blockId: row.openBlockers[0].id });
  await send(NOOR, id, {
    kind: "edit",
    seenVersion: row.version + 1,
    changes: { title: "Another title", typeId: "bug", classOfService: "expedite" },
  });
  await move(NOOR, id, "Waiting for review");

  const later = await kept();
  const own = later.find((h) => h.id === id)!;
  expect(own).toMatchObject({ title: "Another title", typeId: "bug", classOfService: "expedite" });
  expect(own.stays).toHaveLength(4);
  expect(own.blocks).toHaveLength(1);
  expect(own.blocks[0].to).not.toBeNull();
  expect(later.length).toBe(first.length + 1);
  expect(await readAnew()).toEqual(later);
});

test("a type and a class of service are the same choice from what is kept as from all", async () => {
  const all = await loadHistories(database(), "tix");
  const some = await loadHistories(database(), "tix", {
    typeId: "bug",
    classOfService: "expedite",
  });
  expect(some.length).toBeGreaterThan(0);
  expect(new Set(some.map((h) => h.id))).toEqual(
    new Set(
      all.filter((h) => h.typeId === "bug" && h.classOfService === "expedite").map((h) => h.id),
    ),
  );
  expect(await loadHistories(database(), "tix", { typeId: "no such type" })).toEqual([]);
});

test("an item that leaves the project's work leaves its histories, and tasks are part of their item", async () => {
  const all = await loadHistories(database(), "tix");
  expect(all.every((h) => h.typeId !== "task")).toBe(true);
  const withdraw = (id: string) =>
    database().update(item).set({ withdrawnAt: Date.now() }).where(eq(item.id, id));
  const isThere = async (id: string) =>
    (await loadHistories(database(), "tix")).some((h) => h.id === id);
  const never = await itemIn(NOOR, "Never begun");
  await withdraw(never);
  expect(await isThere(never)).toBe(false);
  // What was delivered once, and came back to the backlog, keeps that when it is taken off.
  const once = await itemIn(NOOR, "Delivered and dropped later", ...TO_LIVE.slice(0, -1));
  await move(NOOR, once, "Live", { ...ANSWERS, outcome: "delivered" });
  const before = (await readLearn(NOOR, "TIX", flowQuery.parse({}))).report.finished.length;
  await move(NOOR, once, "Backlog", { reason: "wanted otherwise" });
  await withdraw(once);
  expect(await isThere(once)).toBe(true);
  expect((await readLearn(NOOR, "TIX", flowQuery.parse({}))).report.finished.length).toBe(before);
});

test("the summary follows a move at once, also when two ask at the same moment", async () => {
  const before = (await readSummary(INES, "TIX")).pulse.inProgress.length;
  await itemIn(NOOR, "One more in progress", "Ready");
  const [a, b] = await Promise.all([readSummary(INES, "TIX"), readSummary(NOOR, "TIX")]);
  expect(a.pulse.inProgress.length).toBe(before + 1);
  expect(b.pulse).toEqual(a.pulse);
});
