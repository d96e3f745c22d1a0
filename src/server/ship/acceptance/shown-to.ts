import { and, asc, eq, gt, isNull } from "drizzle-orm";
import type { DayShown } from "@/core/today/day";
import type { Reader } from "@/db/connection";
import { person, showing } from "@/db/schema";
import type { Viewer } from "../../people/viewer";
import { isWaited, shownBy } from "./rows";

/** What is shown to somebody with an account, and waits for their word; what was shown first comes first. */
export async function readShownTo(
  reader: Reader,
  viewer: Viewer,
  now: number,
): Promise<DayShown[]> {
  const showings = await reader
    .select({ id: showing.id, who: person.name })
    .from(showing)
    .innerJoin(person, eq(person.id, showing.askedBy))
    .where(
      and(eq(showing.personId, viewer.personId), isNull(showing.revokedAt), gt(showing.until, now)),
    )
    .orderBy(asc(showing.askedAt));
  if (showings.length === 0) return [];
  const shown = await shownBy(
    reader,
    showings.map(({ id }) => id),
  );
  return showings.flatMap(({ id, who }) =>
    (shown.get(id) ?? []).filter(isWaited).map(({ row: { itemId } }) => ({ itemId, who })),
  );
}
