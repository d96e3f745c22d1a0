import { randomUUID } from "node:crypto";
import { and, eq, sql } from "drizzle-orm";
import { database } from "@/db/connection";
import { reportMessage } from "@/db/schema";
import { move, send } from "./setup/board";
import { settle } from "./setup/events";
import { NOOR } from "./setup/people";
import { accepting, reportRow, sent, verdictOn } from "./setup/reports";
import { givenTestDatabase } from "./setup/test-database";
import { shelved } from "./setup/unfollowed";

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
