import { and, count, desc, eq, ilike, isNotNull, or, sql } from "drizzle-orm";
import type { WithdrawnView } from "@/core/item/withdrawn-view";
import { database } from "@/db/connection";
import { item, itemEvent, itemText, person } from "@/db/schema";
import { enterProject, seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";

/** So many are shown, the latest first. */
const SHOWN = 200;

/** What was withdrawn in a project, the latest first, for those who lead it. */
export async function readWithdrawn(
  viewer: Viewer,
  projectKey: string,
  words = "",
): Promise<WithdrawnView> {
  const db = database();
  const access = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "read withdrawn",
  });
  const { id, key, name, zone } = access.project;
  const typed = `%${words.trim().replace(/[\\%_]/g, "\\$&")}%`;
  const which = and(
    eq(item.projectId, id),
    isNotNull(item.withdrawnAt),
    seesItem(db, viewer),
    words.trim() === ""
      ? undefined
      : or(ilike(item.title, typed), ilike(sql`${key}::text || '-' || ${item.number}`, typed)),
  );
  const last = sql`(select max(w.seq) from item_event w where w.item_id = ${item.id} and w.kind = 'withdrawn')`;
  const [rows, [{ n }]] = await Promise.all([
    db
      .select({
        id: item.id,
        number: item.number,
        title: item.title,
        typeId: item.typeId,
        at: itemEvent.at,
        cause: itemEvent.cause,
        who: person.name,
        why: itemText.body,
      })
      .from(item)
      .innerJoin(itemEvent, and(eq(itemEvent.itemId, item.id), eq(itemEvent.seq, last)))
      .leftJoin(person, eq(person.id, itemEvent.actorId))
      .leftJoin(
        itemText,
        and(
          eq(itemText.itemId, item.id),
          eq(itemText.seq, itemEvent.seq),
          eq(itemText.id, itemEvent.noteId),
        ),
      )
      .where(which)
      .orderBy(desc(itemEvent.at), desc(item.id))
      .limit(SHOWN),
    db.select({ n: count() }).from(item).where(which),
  ]);
  return {
    project: { key, name, zone },
    items: rows.map(({ number, cause, who, why, ...row }) => ({
      ...row,
      key: `${key}-${number}`,
      who: who ?? "the process",
      why: why ?? "",
      byItself: cause !== "undo",
    })),
    count: n,
    mayBringBack: access.may("withdraw item"),
  };
}
