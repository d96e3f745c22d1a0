import { and, eq, exists, gte, inArray, ne, or, type SQL } from "drizzle-orm";
import type { Column } from "@/core/board/column";
import { FINISHED_DAYS_SHOWN } from "@/core/board/finished";
import { DAY, type Instant } from "@/core/calendar/instant";
import type { Reader } from "@/db/connection";
import { boardPlace, item, type board } from "@/db/schema";

/**
 * What stands in the columns of a board, as a condition on items: of what has finished only what did
 * so lately.
 */
export function standingIn(
  reader: Reader,
  { board: { id, columnsBy }, columns }: { board: typeof board.$inferSelect; columns: Column[] },
  now: Instant,
): SQL | undefined {
  const open = ne(item.stateKind, "finished");
  if (columnsBy === "state") {
    const states = columns.flatMap((column) => column.stateIds);
    const lately = gte(item.enteredStateAt, now - FINISHED_DAYS_SHOWN * DAY);
    return and(inArray(item.stateId, states), or(open, lately));
  }
  if (columnsBy !== "free") return open;
  const ofItem = and(eq(boardPlace.boardId, id), eq(boardPlace.itemId, item.id));
  return and(
    open,
    exists(reader.select({ at: boardPlace.columnId }).from(boardPlace).where(ofItem)),
  );
}
