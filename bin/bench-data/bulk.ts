import { and, asc, eq, isNull, type SQL } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { bulkAct } from "@/core/item/bulk/act";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { doBulkChunk } from "@/server/item/bulk/chunk";
import { changeBulk } from "@/server/item/bulk/start";
import { commandItem } from "@/server/item/command";
import type { Viewer } from "@/server/people/viewer";
import { p95, timed, type Row } from "./row";

const MANY = 500;

/**
 * Five hundred items labelled by one job, and five hundred others one after another; and how long
 * somebody waits who moves items meanwhile.
 */
export async function manyAtOnce(by: Viewer): Promise<Row[]> {
  const rows = await itemsOf("b1", isNull(item.withdrawnAt), 2 * MANY);
  const [single, together] = [rows.slice(0, MANY), rows.slice(MANY)];
  const oneByOne = await timed(1, async () => {
    for (const { id, labels, version } of single)
      await commandItem(by, {
        commandId: newId(),
        itemId: id,
        command: {
          kind: "edit",
          seenVersion: version,
          changes: { labels: [...labels, "counted"] },
          own: {},
        },
      });
  });
  const ids = together.map((row) => row.id);
  const asJob = await timed(1, () => labelled(by, ids, "counted"));
  return [
    {
      what: `${MANY} items changed at once, in parts of 50`,
      measured: asJob[0],
      yardstick: oneByOne[0],
      against: `${MANY} single commands one after another`,
      reach: 0.3,
    },
    await moverBeside(by, ids),
  ];
}

const itemsOf = (projectId: string, which: SQL, most: number) =>
  database()
    .select({ id: item.id, labels: item.labels, version: item.version })
    .from(item)
    .where(and(eq(item.projectId, projectId), which))
    .orderBy(asc(item.number))
    .limit(most);

/** A job in the project `b1`, to its end. */
async function labelled(by: Viewer, ids: string[], label: string): Promise<void> {
  const act = bulkAct.parse({ kind: "label", add: [label] });
  await changeBulk(by, "BIG1", { kind: "start", id: newId(), items: { ids }, act });
  while ((await doBulkChunk()) > 0);
}

async function moverBeside(by: Viewer, ids: string[]): Promise<Row> {
  const movable = await itemsOf("b1", eq(item.stateId, "b1-3"), 400);
  const other = movable.map(({ id }) => id).filter((id) => !ids.includes(id));
  const next = () =>
    commandItem(by, {
      commandId: newId(),
      itemId: other.pop()!,
      command: { kind: "move", from: "b1-3", to: "b1-2", answers: {} },
    });
  await timed(20, next);
  const alone = p95(await timed(60, next));
  const beside: number[] = [];
  let done = false;
  const job = labelled(by, ids, "beside").finally(() => (done = true));
  while (!done && other.length > 0) beside.push(...(await timed(1, next)));
  await job;
  return {
    what: `move an item while ${MANY} others are changed, p95 of ${beside.length}`,
    measured: p95(beside),
    yardstick: alone,
    against: "the same without them",
    reach: 2,
  };
}
