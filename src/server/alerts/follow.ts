import { and, eq, isNull } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import type { FollowKind, FollowReason } from "@/core/alerts/follow";
import type { FollowAsked } from "@/core/alerts/request";
import { TERM_KINDS, type TermKind } from "@/core/item/terms/term";
import { database, type Reader, type Transaction } from "@/db/connection";
import { follow, project, view } from "@/db/schema";
import { namedItems } from "../item/list/named";
import { visibleTo } from "../people/access";
import type { Viewer } from "../people/viewer";
import { seesView } from "../view/read";
import { notFound } from "../refused";

/** How a label or a part of a project is followed. */
export const termTarget = (projectId: string, name: string): string => `${projectId}/${name}`;

const isTerm = (kind: FollowKind): kind is TermKind =>
  (TERM_KINDS as readonly string[]).includes(kind);

/** Has people follow an item because they have to do with it; who stopped is left alone. */
export async function followBecause(
  tx: Transaction,
  itemId: string,
  people: readonly { personId: string; why: FollowReason }[],
  since: number,
): Promise<void> {
  if (people.length === 0) return;
  await tx
    .insert(follow)
    .values(
      people.map((one) => ({ ...one, kind: "item" as const, target: itemId, on: true, since })),
    )
    .onConflictDoNothing();
}

/** Follows something, or stops. @throws Refused when the person may not see it */
export async function setFollow(
  viewer: Viewer,
  { kind, target, on }: FollowAsked,
  now = Date.now(),
): Promise<void> {
  const db = database();
  if (!(await maySee(viewer, kind, target)))
    throw notFound(isTerm(kind) || kind === "view" ? kind : "item");
  const row = { on, why: "chosen" as const, since: now };
  await db
    .insert(follow)
    .values({ personId: viewer.personId, kind, target, ...row })
    .onConflictDoUpdate({ target: [follow.personId, follow.kind, follow.target], set: row });
}

async function maySee(viewer: Viewer, kind: FollowKind, target: string): Promise<boolean> {
  const db = database();
  if (kind === "view") {
    if (!isUuid(target)) return false;
    const rows = await db
      .select({ id: view.id })
      .from(view)
      .innerJoin(project, eq(project.id, view.groundId))
      .where(
        and(eq(view.id, target), isNull(view.putAwayAt), seesView(viewer), visibleTo(db, viewer)),
      );
    return rows.length > 0;
  }
  if (isTerm(kind)) {
    const [projectId] = target.split("/", 1);
    const rows = await db
      .select({ id: project.id })
      .from(project)
      .where(and(eq(project.id, projectId), visibleTo(db, viewer)));
    return rows.length > 0;
  }
  return isUuid(target) && (await namedItems(viewer, [target])).has(target);
}

/** Who follows an item by name, and whether one does oneself. */
export async function followingOf(
  reader: Reader,
  viewer: Viewer,
  itemId: string,
): Promise<{ mine: boolean; below: boolean; count: number }> {
  const rows = await reader.select().from(follow).where(eq(follow.target, itemId));
  const on = rows.filter((row) => row.on);
  const mine = (kind: FollowKind) =>
    on.some((row) => row.kind === kind && row.personId === viewer.personId);
  return {
    mine: mine("item") || mine("below"),
    below: mine("below"),
    count: new Set(on.map((row) => row.personId)).size,
  };
}
