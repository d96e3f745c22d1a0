import { and, eq, isNotNull, isNull, lte, ne, or } from "drizzle-orm";
import { cardOf } from "@/core/board/card";
import type { Instant } from "@/core/calendar/instant";
import {
  smallThings,
  UNSIZED_AFTER,
  type KeptItem,
  type SmallThing,
  type SmallThingLine,
} from "@/core/today/housekeeping";
import { database, type Reader } from "@/db/connection";
import { item, putToRest } from "@/db/schema";
import { seenOf } from "../item/list/named";
import { seenIn } from "../item/list/enter";
import { readIds, readRows } from "../item/list/read";
import { snapshotOf, type ItemRow } from "../item/rows";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import type { DayProject, StateOfDay } from "./ground";

/** So many open items of a project are looked through for its lead. */
const MOST = 200;

/**
 * The small things of somebody's own items, and, for whoever leads the project that is open, of its
 * items.
 */
export async function readSmallThings(
  reader: Reader,
  viewer: Viewer,
  {
    own,
    projects,
    open,
    meanings,
    now,
  }: {
    own: readonly ItemRow[];
    projects: readonly DayProject[];
    /** The project that is open. */
    open: DayProject | undefined;
    meanings: ReadonlyMap<string, StateOfDay>;
    now: Instant;
  },
): Promise<SmallThingLine[]> {
  const rested = await reader
    .select()
    .from(putToRest)
    .where(eq(putToRest.personId, viewer.personId));
  const led = open?.access.role === "lead" ? await openItems(reader, viewer, open, now) : [];
  const rows = new Map([...own, ...led].map((row) => [row.id, row]));
  const kept = [...rows.values()].flatMap((row): KeptItem[] => {
    const project = projects.find(({ access }) => access.project.id === row.projectId);
    const type = project?.types.find(({ id }) => id === row.typeId);
    if (!project || !type || row.stateKind === "finished") return [];
    return [
      {
        card: cardOf(snapshotOf(row), project.access.project.key),
        projectKey: project.access.project.key,
        level: type.level,
        updatedAt: row.updatedAt,
        createdAt: row.createdAt,
        mine: row.assigneeId === viewer.personId,
        led: project === open && project.access.role === "lead",
        isBug: type.id === "bug",
        working: meanings.get(row.stateId)?.state.kind === "working",
      },
    ];
  });
  const atRest = (thing: SmallThing, itemId: string, updatedAt: Instant) =>
    rested.some((one) => one.thing === thing && one.itemId === itemId && one.at >= updatedAt);
  return smallThings(kept, atRest, now);
}

/** What may be a small thing of a project, for whoever leads it. */
async function openItems(reader: Reader, viewer: Viewer, { access }: DayProject, now: Instant) {
  const { where } = seenIn(reader, viewer, [access.project.id]);
  const small = or(
    and(eq(item.stateKind, "working"), isNull(item.assigneeId)),
    and(isNotNull(item.sprintId), isNull(item.estimate)),
    and(
      eq(item.typeId, "bug"),
      eq(item.stateKind, "unstarted"),
      isNull(item.estimate),
      lte(item.createdAt, now - UNSIZED_AFTER),
    ),
  );
  const open = ne(item.stateKind, "finished");
  const ids = await readIds({ reader, where: and(where, open, small) }, MOST);
  return readRows(reader, { ids });
}

/** Puts a small thing about an item to rest, with why, until the item changes. */
export async function putThingToRest(
  viewer: Viewer,
  { itemId, thing, why }: { itemId: string; thing: SmallThing; why: string },
  now = Date.now(),
): Promise<void> {
  if (!(await seenOf(viewer, [itemId])).has(itemId)) throw notFound("item");
  const row = { why, at: now };
  await database()
    .insert(putToRest)
    .values({ personId: viewer.personId, itemId, thing, ...row })
    .onConflictDoUpdate({
      target: [putToRest.personId, putToRest.itemId, putToRest.thing],
      set: row,
    });
}
