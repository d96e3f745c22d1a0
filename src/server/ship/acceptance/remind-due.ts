import { and, eq, gt, isNull, lt } from "drizzle-orm";
import { isToBeReminded, REMINDED_AFTER_DAYS } from "@/core/ship/acceptance/showing";
import { database, transact } from "@/db/connection";
import { project, showing } from "@/db/schema";
import { isWaitedFor, remind } from "./change";
import { shownBy } from "./rows";

/** Reminds those who have not said a word. @returns how many */
export async function remindAcceptors(now = Date.now()): Promise<number> {
  const open = await database()
    .select({ showing })
    .from(showing)
    .innerJoin(project, eq(project.id, showing.projectId))
    .where(
      and(
        isNull(showing.revokedAt),
        isNull(project.putAwayAt),
        gt(showing.until, now),
        lt(showing.reminders, REMINDED_AFTER_DAYS.length),
      ),
    );
  const due = open.filter((one) => isToBeReminded(one.showing, now));
  let reminded = 0;
  for (const {
    showing: { id },
  } of due)
    reminded += await transact(async (tx) => {
      const [row] = await tx.select().from(showing).where(eq(showing.id, id)).for("update");
      // Somebody may have been reminded by hand, or it was taken back, while this waited.
      if (!isToBeReminded(row, now)) return 0;
      const shown = (await shownBy(tx, [id])).get(id) ?? [];
      if (!isWaitedFor(shown)) return 0;
      await remind(tx, row, shown, now);
      return 1;
    });
  return reminded;
}
