import { and, eq, inArray, isNull } from "drizzle-orm";
import type { GoesOut } from "@/core/plan/goes-out";
import type { Reader } from "@/db/connection";
import { item, release } from "@/db/schema";

/** With which release each of some items goes out, by its id; whether they are seen is asked before. */
export async function goesOutOf(
  reader: Reader,
  itemIds: readonly (string | null)[],
): Promise<ReadonlyMap<string, GoesOut>> {
  const ids = itemIds.filter((id) => id !== null);
  if (ids.length === 0) return new Map();
  const rows = await reader
    .select({
      id: item.id,
      name: release.name,
      on: release.dueOn,
      releasedAt: release.releasedAt,
    })
    .from(item)
    .innerJoin(release, eq(release.id, item.releaseId))
    .where(and(inArray(item.id, ids), isNull(release.removedAt)));
  return new Map(
    rows.map(({ id, releasedAt, ...of }) => [id, { ...of, out: releasedAt !== null }]),
  );
}
