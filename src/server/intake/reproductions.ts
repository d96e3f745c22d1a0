import { and, eq, isNull } from "drizzle-orm";
import { z } from "zod";
import { reproductionSchema } from "@/core/intake/reproduction";
import { transact } from "@/db/connection";
import { outbox, reproduction } from "@/db/schema";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { seenReport } from "./seen-report";

export const reproductionBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("tried"), id: z.uuid(), try: reproductionSchema }),
  z.object({ kind: z.literal("take back"), id: z.uuid() }),
]);
export type ReproductionRequest = z.infer<typeof reproductionBody>;

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
    const { row } = await seenReport(viewer, reportId, "judge report", tx);
    if (request.kind === "tried")
      await tx
        .insert(reproduction)
        .values({ id: request.id, reportId, byId: viewer.personId, at: now, ...request.try })
        .onConflictDoNothing();
    else {
      const gone = await tx
        .update(reproduction)
        .set({ takenBackAt: now })
        .where(
          and(
            eq(reproduction.id, request.id),
            eq(reproduction.reportId, reportId),
            eq(reproduction.byId, viewer.personId),
            isNull(reproduction.takenBackAt),
          ),
        )
        .returning({ id: reproduction.id });
      if (gone.length === 0) throw notFound("try of yours");
    }
    await tx.insert(outbox).values({ projectId: row.projectId, at: now, kind: "intake", reportId });
  });
}
