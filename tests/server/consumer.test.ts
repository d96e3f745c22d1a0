import { randomUUID } from "node:crypto";
import { and, eq, sql } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { database, type Transaction } from "@/db/connection";
import { domainEvent, eventConsumer, reportMessage } from "@/db/schema";
import { announce } from "@/server/events/announce";
import { checkPlaces, goOn, type Consumer } from "@/server/events/consumer";
import { clearOld } from "@/worker/schedule";
import { move, send } from "./setup/board";
import { settle } from "./setup/events";
import { NOOR } from "./setup/people";
import { accepting, reportRow, sent, verdictOn } from "./setup/reports";
import { givenTestDatabase } from "./setup/test-database";
import { placeConsumersAtTheEnd, shelved } from "./setup/unfollowed";

givenTestDatabase();

const steps = async (reportId: string) =>
  (
    await database()
      .select({ body: reportMessage.body })
      .from(reportMessage)
      .where(and(eq(reportMessage.reportId, reportId), eq(reportMessage.kind, "progress")))
  ).length;

test("a change that cannot be followed up waits and is tried again; those after it go on", async () => {
  await settle();
  const accepted = async (title: string) => {
    const row = await sent({
      title: [title],
      mail: [`${randomUUID().slice(0, 8)}@post.saltmarsh.example`],
    });
    await verdictOn(row.id, accepting({ title }));
    return { reportId: row.id, itemId: (await reportRow(row.id)).itemId! };
  };
  const [bad, good] = [await accepted("Ramp groans"), await accepted("Bell is silent")];
  await settle();
  // A fault that only this one item meets: what is told of its report is refused by the database.
  await database().execute(
    sql.raw(
      `create function groan() returns trigger language plpgsql as $$ begin raise exception 'no'; end $$`,
    ),
  );
  await database().execute(
    sql.raw(
      `create trigger groan before insert on report_message for each row when (new.report_id = '${bad.reportId}') execute function groan()`,
    ),
  );
  const before = await steps(good.reportId);
  for (const { itemId } of [bad, good]) await move(NOOR, itemId, "Ready");
  await send(NOOR, bad.itemId, { kind: "comment", body: "still" });
  await settle();
  const waiting = await shelved();
  expect(waiting).toEqual(
    expect.arrayContaining([expect.objectContaining({ itemId: bad.itemId, tries: 1 })]),
  );
  expect(waiting.every((r) => r.itemId === bad.itemId)).toBe(true);
  expect(await steps(good.reportId)).toBe(before + 1);
  const told = await steps(bad.reportId);
  await database().execute(sql.raw("drop trigger groan on report_message"));
  await settle(Date.now() + 60_000);
  expect(await shelved()).toEqual([]);
  expect(await steps(bad.reportId)).toBe(told + 1);
});

test("what commits late, with a number from before, is followed all the same", async () => {
  await settle();
  const seen: number[] = [];
  const consumer: Consumer = {
    name: "late",
    kinds: ["plan changed"],
    follow: async (_, event) => void seen.push(event.id),
  };
  await database().execute(
    sql`insert into ${eventConsumer} select 'late', tx, event_id from ${eventConsumer} limit 1`,
  );
  const tell = (tx: Transaction) => announce(tx, "tix", { kind: "plan changed", data: {} });
  let told = () => {};
  let finish = () => {};
  const open = new Promise<void>((resolve) => (finish = resolve));
  const begun = new Promise<void>((resolve) => (told = resolve));
  const late = database().transaction(async (tx) => {
    await tell(tx);
    told();
    await open;
  });
  await begun;
  await database().transaction(tell);
  // The second is there to be read, and the first is not: nobody goes past it.
  await goOn(consumer);
  expect(seen).toEqual([]);
  finish();
  await late;
  while (seen.length < 2) await goOn(consumer);
  expect(seen[0]).toBeLessThan(seen[1]);
  await goOn(consumer);
  expect(seen).toHaveLength(2);
  await database().delete(eventConsumer).where(eq(eventConsumer.name, "late"));
});

test("what can never be followed stays on the shelf, and a consumer without a place is no worker's", async () => {
  const failing: Consumer = {
    name: "failing",
    kinds: ["plan changed"],
    follow: () => Promise.reject(new Error("never")),
  };
  await expect(checkPlaces([failing])).rejects.toThrow("failing");
  await settle();
  await database().execute(
    sql`insert into ${eventConsumer} select 'failing', tx, event_id from ${eventConsumer} limit 1`,
  );
  await checkPlaces([failing]);
  const tell = (tx: Transaction) => announce(tx, "tix", { kind: "plan changed", data: {} });
  await database().transaction(tell);
  let now = Date.now();
  while ((await shelved()).length === 0) await goOn(failing, now);
  let tries = 1;
  for (; (await shelved())[0].nextAt !== null; tries++) {
    now += 3_600_000;
    await goOn(failing, now);
  }
  expect([tries, (await shelved())[0].tries]).toEqual([20, 20]);
  expect(await goOn(failing, now + 1e9)).toBe(0);
  // Old events are thrown away, but not what lies on a shelf.
  await placeConsumersAtTheEnd();
  await clearOld(Date.now() + 30 * DAY);
  expect(await shelved()).toHaveLength(1);
  expect((await database().select().from(domainEvent)).length).toBe(1);
  await database().delete(eventConsumer).where(eq(eventConsumer.name, "failing"));
});
