import { and, desc, eq, inArray, isNull, sql } from "drizzle-orm";
import type { ItemSnapshot } from "@/core/item/fields";
import type { Recipient } from "@/core/workflow/follow-ups/tell";
import { database, type Transaction } from "@/db/connection";
import { item, membership, notice, project, report, reportMessage, teamMember } from "@/db/schema";
import { seesItem, visibleTo } from "../people/access";
import type { Viewer } from "../people/viewer";
import type { NoticeView } from "@/core/alerts/notice";
import { NOTICES_SHOWN } from "@/core/alerts/request";

/**
 * Tells people of an item: those who work in its project find it under their alerts, whoever
 * reported it on their private page. Nobody is told of what they did themselves.
 */
export async function tell({
  tx,
  moved,
  whom,
  text,
  byId,
  at,
  otherIds = [],
}: {
  tx: Transaction;
  moved: ItemSnapshot;
  whom: readonly Recipient[];
  text: string;
  byId: string | null;
  at: number;
  /** Other items that it is about. */
  otherIds?: string[];
}): Promise<void> {
  const ids = new Set<string>();
  const add = (id: string | null) => void (id && id !== byId && ids.add(id));
  for (const told of whom) {
    if (told.kind === "assignee") add(moved.assigneeId);
    else if (told.kind === "reviewer") add(moved.reviewerId);
    else if (told.kind === "creator") add(moved.createdBy);
    else if (told.kind === "person") add(told.personId);
    else if (told.kind === "leads")
      (
        await tx
          .select({ id: membership.personId })
          .from(membership)
          .where(and(eq(membership.projectId, moved.projectId), eq(membership.role, "lead")))
      ).forEach((r) => add(r.id));
    else if (told.kind === "team")
      (
        await tx
          .select({ id: teamMember.personId })
          .from(teamMember)
          .where(eq(teamMember.teamId, told.teamId))
      ).forEach((r) => add(r.id));
    else {
      // Whoever has an account is told like everybody; whoever reported it, on the private page.
      add(moved.createdBy);
      for (const { id } of await tx
        .select({ id: report.id })
        .from(report)
        .where(eq(report.itemId, moved.id)))
        await tx.insert(reportMessage).values({ reportId: id, kind: "progress", body: text, at });
    }
  }
  if (ids.size === 0) return;
  // Somebody who left the project is not told what goes on in it.
  const members = await tx
    .select({ id: membership.personId })
    .from(membership)
    .where(and(eq(membership.projectId, moved.projectId), inArray(membership.personId, [...ids])));
  if (members.length > 0)
    await tx
      .insert(notice)
      .values(members.map(({ id }) => ({ personId: id, itemId: moved.id, otherIds, text, at })));
}

/** What a person was told, of items that they may still see. */
const mine = (viewer: Viewer) =>
  and(
    eq(notice.personId, viewer.personId),
    visibleTo(database(), viewer),
    seesItem(database(), viewer),
    isNull(item.withdrawnAt),
  );

/** The newest first. */
export async function readNotices(viewer: Viewer): Promise<NoticeView[]> {
  const db = database();
  const rows = await db
    .select({
      id: notice.id,
      number: item.number,
      projectKey: project.key,
      title: item.title,
      text: notice.text,
      at: notice.at,
      readAt: notice.readAt,
      itemId: notice.itemId,
      otherIds: notice.otherIds,
    })
    .from(notice)
    .innerJoin(item, eq(item.id, notice.itemId))
    .innerJoin(project, eq(project.id, item.projectId))
    .where(mine(viewer))
    .orderBy(desc(notice.at), desc(notice.id))
    .limit(NOTICES_SHOWN);
  const others = [...new Set(rows.flatMap((row) => row.otherIds))];
  const seen = new Set(await seenOf(viewer, others));
  return rows.map(({ number, readAt, itemId, otherIds, ...row }) => ({
    ...row,
    itemKey: `${row.projectKey}-${number}`,
    ids: otherIds.length === 0 ? [] : [itemId, ...otherIds.filter((id) => seen.has(id))],
    read: readAt !== null,
  }));
}

/** Of some items the ones that a person may see. */
async function seenOf(viewer: Viewer, ids: readonly string[]): Promise<string[]> {
  if (ids.length === 0) return [];
  const db = database();
  const rows = await db
    .select({ id: item.id })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .where(
      and(
        inArray(item.id, [...ids]),
        visibleTo(db, viewer),
        seesItem(db, viewer),
        isNull(item.withdrawnAt),
      ),
    );
  return rows.map((row) => row.id);
}

/** How many a person has not read yet. */
export async function unreadCount(viewer: Viewer): Promise<number> {
  const db = database();
  const [{ n }] = await db
    .select({ n: sql<number>`count(*)::int` })
    .from(notice)
    .innerJoin(item, eq(item.id, notice.itemId))
    .innerJoin(project, eq(project.id, item.projectId))
    .where(and(mine(viewer), isNull(notice.readAt)));
  return n;
}

/** Marks notices as read; only one's own. */
export async function markRead(
  viewer: Viewer,
  ids: readonly number[],
  now = Date.now(),
): Promise<void> {
  await database()
    .update(notice)
    .set({ readAt: now })
    .where(
      and(
        eq(notice.personId, viewer.personId),
        inArray(notice.id, [...ids]),
        isNull(notice.readAt),
      ),
    );
}
