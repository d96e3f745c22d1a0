import { sql } from "drizzle-orm";
import { closeDatabase, database } from "@/db/connection";
import { domainEvent, item, itemEvent } from "@/db/schema";
import { checkItems } from "@/server/item/check";
import { settle } from "./setup/events";
import { shelved, unfollowed } from "./setup/unfollowed";
import { countIn, itemIn, limitFirmly, stateId } from "./setup/board";
import { NOOR } from "./setup/people";
import { ownCluster } from "./setup/own-cluster";
import { runMovers } from "./setup/run-movers";
import { givenTestDatabase } from "./setup/test-database";

const BACK_AND_FORTH = async () => [
  { from: await stateId("Ready"), to: await stateId("Building") },
  { from: await stateId("Building"), to: await stateId("Ready") },
];

const job = async (itemIds: string[], path: { from: string; to: string }[], forever: boolean) => ({
  itemIds,
  viewer: NOOR,
  path,
  answers: { assigneeId: "noor", reviewerId: "ivo" },
  forever,
});

/**
 * Everything that was answered as done must be stored: the item is at that version or a later one.
 */
async function nothingPromisedIsLost(lines: string[]): Promise<number> {
  const stored = new Map(
    (await database().select({ id: item.id, version: item.version }).from(item)).map((r) => [
      r.id,
      r.version,
    ]),
  );
  const done = lines.filter((l) => l.startsWith("done ")).map((l) => l.split(" "));
  for (const [, id, version] of done)
    expect(stored.get(id)).toBeGreaterThanOrEqual(Number(version));
  return done.length;
}

describe("with a shared server", () => {
  givenTestDatabase();

  test("64 writers in two processes never exceed a firm limit and lose no move", async () => {
    const before = await countIn("Building");
    const free = 10;
    await limitFirmly("Building", before + free);
    const ids: string[] = [];
    for (let i = 0; i < 64; i++) ids.push(await itemIn(NOOR, `Writer ${i}`, "Ready"));
    const [into] = await BACK_AND_FORTH();
    const processes = [ids.slice(0, 32), ids.slice(32)].map(async (half) =>
      runMovers(process.env.DATABASE_URL!, await job(half, [into], false)),
    );
    const movers = await Promise.all(processes);
    await Promise.all(movers.map((m) => m.ended));
    const lines = movers.flatMap((m) => m.lines);
    expect(lines.filter((l) => l.startsWith("done"))).toHaveLength(free);
    expect(lines.filter((l) => l.endsWith(" limit"))).toHaveLength(64 - free);
    expect(await countIn("Building")).toBe(before + free);
    await nothingPromisedIsLost(lines);
    expect((await checkItems()).findings).toEqual([]);
  });

  test("64 writers going in and out all the time keep to the limit at every moment of the history", async () => {
    const max = (await countIn("Building")) + 5;
    await limitFirmly("Building", max);
    const ids: string[] = [];
    for (let i = 0; i < 64; i++) ids.push(await itemIn(NOOR, `Swing ${i}`, "Ready"));
    const path = await BACK_AND_FORTH();
    const movers = await Promise.all(
      [ids.slice(0, 32), ids.slice(32)].map(async (half) =>
        runMovers(process.env.DATABASE_URL!, await job(half, path, true)),
      ),
    );
    await Promise.all(movers.map((m) => m.heard("done", 60)));
    // The application is killed, not asked to stop, in the middle of it.
    for (const m of movers) m.process.kill("SIGKILL");
    await Promise.all(movers.map((m) => m.ended));
    const building = await stateId("Building");
    // Events are told while the limit is held, so their order is the order in which moves took
    // their places.
    const { rows } = await database().execute(sql`
      with moves as (
        select o.id, (e.new->>'stateId' = ${building})::int - (e.old->>'stateId' = ${building})::int as change
        from ${domainEvent} o join ${itemEvent} e on e.item_id = o.item_id and e.seq = (o.data->>'version')::int where e.kind = 'moved')
      select max(held) as most from (select sum(change) over (order by id) as held from moves) h`);
    const total = await countIn("Building");
    const {
      rows: [{ all }],
    } = await database().execute(sql`
      select coalesce(sum((e.new->>'stateId' = ${building})::int - (e.old->>'stateId' = ${building})::int), 0) as all
      from ${domainEvent} o join ${itemEvent} e on e.item_id = o.item_id and e.seq = (o.data->>'version')::int where e.kind = 'moved'`);
    const start = total - Number(all);
    expect(Number(rows[0].most) + start).toBeLessThanOrEqual(max);
    expect(await nothingPromisedIsLost(movers.flatMap((m) => m.lines))).toBeGreaterThanOrEqual(120);
    expect((await checkItems()).findings).toEqual([]);
    await settle();
    expect([await unfollowed(), await shelved()]).toEqual([0, []]);
  });
});

test("PostgreSQL killed in the middle of a stream of moves: after its recovery all agrees, and the movers go on by themselves", async () => {
  const cluster = await ownCluster();
  process.env.DATABASE_URL = cluster.url;
  try {
    const ids: string[] = [];
    for (let i = 0; i < 16; i++) ids.push(await itemIn(NOOR, `Storm ${i}`, "Ready"));
    const movers = runMovers(cluster.url, await job(ids, await BACK_AND_FORTH(), true));
    await movers.heard("done", 100);
    await closeDatabase();
    cluster.kill();
    await movers.heard("failed", 1);
    cluster.start();
    const already = movers.lines.filter((l) => l.startsWith("done")).length;
    await movers.heard("done", already + 50);
    movers.process.kill("SIGKILL");
    await movers.ended;
    await nothingPromisedIsLost(movers.lines);
    expect((await checkItems()).findings).toEqual([]);
  } finally {
    await closeDatabase();
    cluster.remove();
  }
});
