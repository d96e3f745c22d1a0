import { and, count, desc, eq, isNotNull, isNull, sql } from "drizzle-orm";
import type { FreePlacesView } from "@/core/item/terms/view";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { enterProject, seesItem } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { loadTerms } from "./load";

/** So many places that belong to no part are shown. */
const MOST_PLACES = 100;

/** Places as people write them that belong to no part, those with most items first. */
export async function readFreePlaces(viewer: Viewer, projectKey: string): Promise<FreePlacesView> {
  const db = database();
  const access = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const { id } = access.project;
  const [terms, places] = await Promise.all([
    loadTerms(db, id),
    db
      .select({
        place: sql<string>`${item.place}`,
        items: count(),
        open: sql<number>`count(*) filter (where ${item.stateKind} <> 'finished')`.mapWith(Number),
      })
      .from(item)
      .where(
        and(
          eq(item.projectId, id),
          isNull(item.withdrawnAt),
          seesItem(db, viewer),
          isNotNull(item.place),
          sql`${item.place} <> ''`,
        ),
      )
      .groupBy(item.place)
      .orderBy(desc(count()), item.place)
      .limit(MOST_PLACES),
  ]);
  const placed = new Set(terms.flatMap((term) => term.places));
  return { places: places.filter(({ place }) => !placed.has(place)) };
}
