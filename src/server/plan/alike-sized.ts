import { and, desc, eq, isNotNull, isNull, ne } from "drizzle-orm";
import { cutAt } from "@/core/calendar/instant";
import { daysTouched } from "@/core/calendar/zone";
import { mostSimilar } from "@/core/intake/similarity";
import type { AlikeSized } from "@/core/plan/sizing-view";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { cutText } from "@/core/formats/cut-text";
import { keyColumn } from "../item/key";
import { enterProject, seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";

/** So many of the latest that were delivered are compared. */
const COMPARED = 600;
/** So much of a description counts. */
const READ = 2_000;
const SHOWN = 8;

/**
 * Delivered items of a project that have a size and are much like one, the most alike first. Only what
 * whoever asks may see.
 * @throws Refused
 */
export async function readAlike(
  viewer: Viewer,
  projectKey: string,
  itemId: string,
): Promise<{ alike: AlikeSized[] }> {
  const reader = database();
  const where = { key: projectKey };
  const { project: of } = await enterProject({ reader, viewer, where, action: "read project" });
  const seen = seesItem(reader, viewer);
  const [row] = await reader
    .select()
    .from(item)
    .where(and(eq(item.id, itemId), eq(item.projectId, of.id), seen));
  if (!row) throw notFound("item");
  const rows = await reader
    .select({
      id: item.id,
      key: keyColumn,
      title: item.title,
      description: item.description,
      place: item.place,
      size: item.estimate,
      clock: item.clock,
      deliveredAt: item.deliveredAt,
    })
    .from(item)
    .where(
      and(
        eq(item.projectId, of.id),
        eq(item.typeId, row.typeId),
        isNotNull(item.deliveredAt),
        isNotNull(item.estimate),
        isNull(item.withdrawnAt),
        ne(item.id, itemId),
        seen,
      ),
    )
    .orderBy(desc(item.deliveredAt))
    .limit(COMPARED);
  const text = (one: { id: string; title: string; description: string; place: string | null }) => ({
    id: one.id,
    title: one.title,
    body: cutText(one.description, READ),
    place: one.place,
  });
  const byId = new Map(rows.map((one) => [one.id, one]));
  const alike = mostSimilar(text(row), rows.map(text), SHOWN).map(({ id, score }) => {
    const { key, title, size, clock, deliveredAt } = byId.get(id)!;
    return {
      id,
      key,
      title,
      size: size!,
      score,
      days: daysTouched(cutAt(clock, deliveredAt!), of.zone, deliveredAt!),
    };
  });
  return { alike };
}
