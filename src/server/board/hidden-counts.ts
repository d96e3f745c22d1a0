import { and, eq, isNull, ne, sql, type SQL } from "drizzle-orm";
import type { ColumnsBy } from "@/core/board/columns-by";
import type { Condition } from "@/core/condition/condition";
import type { Instant } from "@/core/calendar/instant";
import type { StateId } from "@/core/workflow/state";
import type { Reader } from "@/db/connection";
import { item } from "@/db/schema";
import { projectAsker } from "../condition/asker";
import { compileCondition } from "../condition/compile";
import { hiddenFrom } from "../people/access";
import type { Viewer } from "../people/viewer";

interface Zoned {
  id: string;
  zone: string;
}

/**
 * Of the items in progress that a board counts, how many in each state a person may not see; only
 * boards of the process count.
 */
export async function hiddenCounts({
  reader,
  viewer,
  project,
  board,
  now,
}: {
  reader: Reader;
  viewer: Viewer;
  project: Zoned;
  board: { scope: Condition | null; columnsBy: ColumnsBy };
  now: Instant;
}): Promise<Record<StateId, number>> {
  if (viewer.administrator || board.columnsBy !== "state") return {};
  const rows = await reader
    .select({ stateId: item.stateId, count: sql<number>`count(*)::int` })
    .from(item)
    .where(
      and(
        eq(item.projectId, project.id),
        isNull(item.withdrawnAt),
        ne(item.stateKind, "finished"),
        hiddenFrom(reader, viewer),
        await inScope(reader, project, board.scope, now),
      ),
    )
    .groupBy(item.stateId);
  return Object.fromEntries(rows.map((r) => [r.stateId, r.count]));
}

const inScope = async (
  reader: Reader,
  project: Zoned,
  scope: Condition | null,
  now: Instant,
): Promise<SQL | undefined> =>
  scope === null ? undefined : compileCondition(scope, await projectAsker(reader, project, now));
