import { and, eq, isNull } from "drizzle-orm";
import { transact } from "@/db/connection";
import { reproduction } from "@/db/schema";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { reportThroughDoor } from "./door";
import { lockSeenReport } from "./seen-report";
import type { ReproductionRequest } from "@/core/intake/request";

/**
 * Keeps that somebody tried to make a report happen, or takes their own try back. Sent twice it
 * counts once.
 */
export async function recordReproduction(
  viewer: Viewer,
  reportId: string,
  request: ReproductionRequest,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { row } = await lockSeenReport(tx, viewer, reportId, "judge report");
    const { id } = request;
    if (request.kind === "tried") {
      const added = await tx
        .insert(reproduction)
        .values({ id, reportId, byId: viewer.personId, at: now, ...request.try })
        .onConflictDoNothing()
        .returning({ id: reproduction.id });
      if (added.length > 0)
        await reportThroughDoor({ tx, by: viewer, row, command: { kind: "try", tryId: id }, now });
      return;
    }
    const gone = await tx
      .update(reproduction)
      .set({ takenBackAt: now })
      .where(
        and(
          eq(reproduction.id, id),
          eq(reproduction.reportId, reportId),
          eq(reproduction.byId, viewer.personId),
          isNull(reproduction.takenBackAt),
        ),
      )
      .returning({ id: reproduction.id });
    if (gone.length === 0) throw notFound("try of yours");
    await reportThroughDoor({
      tx,
      by: viewer,
      row,
      command: { kind: "take back try", tryId: id },
      now,
    });
  });
}
