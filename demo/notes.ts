import { and, eq, isNotNull } from "drizzle-orm";
import { DAY, type Instant } from "@/core/calendar/instant";
import { grouped } from "@/core/item/grouped";
import { notesMarkdown, type ReleaseNote } from "@/core/ship/release/release-notes";
import type { Transaction } from "@/db/connection";
import * as table from "@/db/schema";
import type { DemoItem } from "./history";

/** So many of the lines are written already. */
const WRITTEN = 3;

/** What the lead has written of the next release so far: some lines, and one that is not for outside. */
export async function loadNotes(
  tx: Transaction,
  releaseId: string,
  items: readonly DemoItem[],
  now: Instant,
): Promise<void> {
  const inIt = items
    .map(({ snapshot }) => snapshot)
    .filter((one) => one.releaseId === releaseId && one.typeId === "story");
  const by = { releaseId, byId: "ines", at: now - 2 * DAY };
  const rows = inIt.slice(0, WRITTEN).map(({ id, title }) => ({
    ...{ ...by, itemId: id, internal: false },
    words: `You can ${title[0].toLowerCase()}${title.slice(1)}.`,
  }));
  const last = inIt.at(-1);
  if (last && inIt.length > WRITTEN)
    rows.push({ ...by, itemId: last.id, words: "", internal: true });
  if (rows.length > 0) await tx.insert(table.releaseNote).values(rows);
}

/** One of the crossings of the quay gates was taken back the day after it was out. */
export async function loadWithdrawn(tx: Transaction): Promise<void> {
  const which = eq(table.release.id, "gate-release-18");
  const [{ releasedAt }] = await tx.select().from(table.release).where(which);
  if (releasedAt === null) return;
  await tx
    .update(table.release)
    .set({
      withdrawnAt: releasedAt + DAY,
      withdrawnWhy: "Two gates stayed shut when the tide turned; the old build runs again.",
    })
    .where(which);
}

/** The notes of the releases that are out, as they went out; the crew lets anyone read them. */
export async function loadOutNotes(
  tx: Transaction,
  projectId: string,
  items: readonly DemoItem[],
): Promise<void> {
  await tx.update(table.project).set({ newsPublic: true }).where(eq(table.project.id, projectId));
  const out = await tx
    .select({ id: table.release.id, name: table.release.name })
    .from(table.release)
    .where(and(eq(table.release.ownerId, projectId), isNotNull(table.release.releasedAt)));
  const byRelease = grouped(
    items.map(({ snapshot }) => snapshot),
    ({ releaseId }) => releaseId,
  );
  for (const { id, name } of out) {
    const notes = (byRelease.get(id) ?? [])
      .filter(({ typeId, stateKind }) => typeId !== "task" && stateKind === "finished")
      .map((one): ReleaseNote => ({
        ...{ itemId: one.id, key: "", title: one.title, typeId: one.typeId, words: "" },
        ...{ internal: one.restricted, finished: true },
      }));
    await tx
      .update(table.release)
      .set({ outNotes: notesMarkdown(name, notes) })
      .where(eq(table.release.id, id));
  }
}
