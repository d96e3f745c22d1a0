import { and, asc, eq, isNull } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { bulkAct } from "@/core/item/bulk/act";
import { database } from "@/db/connection";
import { item, project } from "@/db/schema";
import { doBulkChunk } from "@/server/item/bulk/chunk";
import { changeBulk } from "@/server/item/bulk/start";
import { commandItem } from "@/server/item/command";
import type { Viewer } from "@/server/people/viewer";
import { timed, type Row } from "./row";

const MANY = 500;

/** Five hundred items labelled by one job, and five hundred others one after another. */
export async function manyAtOnce(by: Viewer): Promise<Row> {
  const db = database();
  const [{ id: projectId, key }] = await db.select().from(project).orderBy(project.id).limit(1);
  const rows = await db
    .select({ id: item.id, labels: item.labels, version: item.version })
    .from(item)
    .where(and(eq(item.projectId, projectId), isNull(item.withdrawnAt)))
    .orderBy(asc(item.number))
    .limit(2 * MANY);
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
  const asJob = await timed(1, async () => {
    const ids = together.map((row) => row.id);
    const act = bulkAct.parse({ kind: "label", add: ["counted"] });
    await changeBulk(by, key, { kind: "start", id: newId(), items: { ids }, act });
    while ((await doBulkChunk()) > 0);
  });
  return {
    what: `${MANY} items changed at once, in parts of 50`,
    measured: asJob[0],
    yardstick: oneByOne[0],
    against: `${MANY} single commands one after another`,
    reach: 0.3,
  };
}
