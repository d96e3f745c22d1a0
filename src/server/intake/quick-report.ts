import { and, eq, isNull } from "drizzle-orm";
import type { z } from "zod";
import type { quickBody } from "@/core/intake/request";
import { database, transact } from "@/db/connection";
import { item, person } from "@/db/schema";
import { hasKeyAmong } from "../item/key";
import { writeToRequester } from "../mail/write";
import { enterProject, seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid } from "../refused";
import { checkFiles, type SentFile } from "./file";
import { storeReport } from "./new-report";
import { receiptOf } from "./report-promises";

/**
 * A report by somebody with an account, from wherever they are, with the item in view as its
 * context. Where somebody called, the report is theirs.
 */
export async function quickReport(
  viewer: Viewer,
  projectKey: string,
  {
    title,
    happened,
    itemKey,
    caller,
    sent = [],
  }: z.infer<typeof quickBody> & { sent?: readonly SentFile[] },
  now = Date.now(),
): Promise<{ reference: string }> {
  const db = database();
  const { project } = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "send report",
  });
  const [who] = await db
    .select({ email: person.email })
    .from(person)
    .where(eq(person.id, viewer.personId));
  const [seen] = itemKey
    ? await db
        .select({ id: item.id })
        .from(item)
        .where(
          and(
            eq(item.projectId, project.id),
            hasKeyAmong([itemKey]),
            isNull(item.withdrawnAt),
            seesItem(db, viewer),
          ),
        )
    : [];
  if (itemKey && !seen)
    throw invalid("The item in view is not in this project.", "Send it without the item.");
  const files = checkFiles(sent);
  const text = [happened || title, ...(seen ? [`Seen at ${itemKey}.`] : [])].join("\n\n");
  return transact(async (tx) => {
    const row = await storeReport({
      tx,
      projectId: project.id,
      incoming: { title, happened: text, mail: caller || who.email, way: "hand" },
      files,
      now,
    });
    // Whoever called gets a page of their own, as if they had written themselves.
    if (caller) await writeToRequester(tx, row, await receiptOf(tx, row, "", now), { now });
    return { reference: row.reference };
  });
}
