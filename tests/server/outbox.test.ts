import { randomUUID } from "node:crypto";
import { and, eq, isNull, sql } from "drizzle-orm";
import { database } from "@/db/connection";
import { outbox, reportMessage } from "@/db/schema";
import { consumeOutbox } from "@/worker/consume";
import { move, send } from "./setup/board";
import { NOOR } from "./setup/people";
import { accepting, reportRow, sent, verdictOn } from "./setup/reports";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const drain = async (now?: number) => {
  while ((await consumeOutbox(now)) > 0);
};
const open = () =>
  database()
    .select({ itemId: outbox.itemId, tries: outbox.tries })
    .from(outbox)
    .where(isNull(outbox.doneAt));
const steps = async (reportId: string) =>
  (
    await database()
      .select({ body: reportMessage.body })
      .from(reportMessage)
      .where(and(eq(reportMessage.reportId, reportId), eq(reportMessage.kind, "progress")))
  ).length;

test("a change that cannot be followed up waits and is tried again; those after it go on", async () => {
  await drain();
  const accepted = async (title: string) => {
    const row = await sent({
      title: [title],
      mail: [`${randomUUID().slice(0, 8)}@post.saltmarsh.example`],
    });
    await verdictOn(row.id, accepting({ title }));
    return { reportId: row.id, itemId: (await reportRow(row.id)).itemId! };
  };
  const [bad, good] = [await accepted("Ramp groans"), await accepted("Bell is silent")];
  await drain();
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
  await drain();
  expect(await open()).toEqual(expect.arrayContaining([{ itemId: bad.itemId, tries: 1 }]));
  expect((await open()).every((r) => r.itemId === bad.itemId)).toBe(true);
  expect(await steps(good.reportId)).toBe(before + 1);
  const told = await steps(bad.reportId);
  await database().execute(sql.raw("drop trigger groan on report_message"));
  await drain(Date.now() + 60_000);
  expect(await open()).toEqual([]);
  expect(await steps(bad.reportId)).toBe(told + 1);
});
