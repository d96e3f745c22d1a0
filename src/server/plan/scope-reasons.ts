import { and, desc, eq, inArray } from "drizzle-orm";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import type { Instant } from "@/core/calendar/instant";
import type { ItemSnapshot } from "@/core/item/fields";
import type { ScopeQuestion, ScopeReason } from "@/core/plan/scope-reason";
import { sprintStanding } from "@/core/plan/sprint";
import { transact, type Reader } from "@/db/connection";
import { itemEvent, scopeReason, sprint } from "@/db/schema";
import { enterItem } from "../item/enter";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { announceDesign } from "../workflow/announce";
import { loadSprints } from "./timeboxes";

/**
 * What is asked of somebody whose command took an item into a sprint that runs, or out of one; null
 * where it did not. Of two that run the one that it came into is asked about.
 */
export async function scopeQuestionOf(
  reader: Reader,
  before: Pick<ItemSnapshot, "id" | "sprintId">,
  after: Pick<ItemSnapshot, "sprintId">,
  commandId: string,
): Promise<ScopeQuestion | null> {
  const changed = [after.sprintId, before.sprintId].filter((id) => id !== null);
  if (before.sprintId === after.sprintId || changed.length === 0) return null;
  const now = Date.now();
  const rows = await reader.select().from(sprint).where(inArray(sprint.id, changed));
  const runs = changed
    .flatMap((id) => rows.filter((row) => row.id === id))
    .find((row) => sprintStanding(row, isoDate(dayNumber(now, row.zone))) === "running");
  if (!runs) return null;
  const [event] = await reader
    .select({ seq: itemEvent.seq })
    .from(itemEvent)
    .where(
      and(
        eq(itemEvent.itemId, before.id),
        eq(itemEvent.commandId, commandId),
        eq(itemEvent.field, "sprintId"),
      ),
    )
    .orderBy(desc(itemEvent.seq))
    .limit(1);
  if (!event) return null;
  return {
    itemId: before.id,
    seq: event.seq,
    sprintId: runs.id,
    sprintName: runs.name,
    kind: runs.id === after.sprintId ? "added" : "taken out",
  };
}

/**
 * Keeps why something came into a sprint that ran, or was taken out of it; without words what was said
 * is taken back.
 * @throws Refused where somebody may not change the item, or it never came into this sprint so
 */
export async function sayWhyScope(
  viewer: Viewer,
  { projectKey, sprintId }: { projectKey: string; sprintId: string },
  { itemId, seq, words }: ScopeReason,
  now: Instant = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const where = { key: projectKey };
    const { project } = await enterProject({ reader: tx, viewer, where, action: "read project" });
    const sprints = await loadSprints(tx, project.id);
    if (!sprints.some(({ id }) => id === sprintId)) throw notFound("sprint");
    await enterItem(tx, viewer, itemId, "edit item");
    const change = and(eq(itemEvent.itemId, itemId), eq(itemEvent.seq, seq));
    const [event] = await tx.select().from(itemEvent).where(change);
    const concerns = event?.field === "sprintId" && [event.old, event.new].includes(sprintId);
    if (!concerns) throw notFound("change of this sprint");
    const place = and(eq(scopeReason.itemId, itemId), eq(scopeReason.seq, seq));
    if (words === "") await tx.delete(scopeReason).where(place);
    else {
      const said = { words, byId: viewer.personId, at: now };
      await tx
        .insert(scopeReason)
        .values({ itemId, seq, ...said })
        .onConflictDoUpdate({ target: [scopeReason.itemId, scopeReason.seq], set: said });
    }
    await announceDesign(tx, project.id, { kind: "plan changed", data: {} });
  });
}
