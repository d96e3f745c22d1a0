import { and, asc, eq, inArray, isNull, ne, sql } from "drizzle-orm";
import { addDays, type Day } from "@/core/calendar/month";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { grouped } from "@/core/item/grouped";
import { LARGE_LEVEL } from "@/core/item/item-type";
import { loadByDay, roomDays, type Work } from "@/core/plan/people-room";
import { ROOM_WEEKS, type HeldItem, type PersonRoom, type RoomView } from "@/core/plan/room-view";
import { mondayOf } from "@/core/time/week";
import { database, type Reader } from "@/db/connection";
import { item, itemType, project, sprint } from "@/db/schema";
import { keyColumn } from "../item/key";
import { enterProject, isSeen, seesAnywhere, type ProjectRow } from "../people/access";
import type { Viewer } from "../people/viewer";
import { readFocus, type PastFocus } from "./focus";
import { loadSprints } from "./timeboxes";
import { readWorkers } from "./workers";

/** An open item of somebody, with when it is to be done. */
interface Held extends HeldItem {
  personId: string;
  seen: boolean;
  work: Work;
}

/**
 * The next weeks of the people of a project: what they have in hand and what is planned for them, of
 * whatever project, against the days on which they work. What whoever looks may not see counts, and
 * says only that it is there.
 */
export async function readRoom(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<RoomView> {
  const reader = database();
  const where = { key: projectKey };
  const { project: of, may } = await enterProject({
    reader,
    viewer,
    where,
    action: "read project",
  });
  const people = await roomOf(reader, viewer, of, now);
  const today = isoDate(dayNumber(now, of.zone));
  return {
    project: { key: of.key, name: of.name },
    today,
    mondays: Array.from({ length: ROOM_WEEKS }, (_, i) => addDays(mondayOf(today), 7 * i)),
    people,
    rights: { edit: may("edit item") },
  };
}

/** The room of each of a project's people in the next weeks. */
export async function roomOf(
  reader: Reader,
  viewer: Viewer,
  of: ProjectRow,
  now: number,
): Promise<PersonRoom[]> {
  const today = isoDate(dayNumber(now, of.zone));
  const monday = mondayOf(today);
  const workers = await readWorkers(reader, of.id);
  const sprints = await loadSprints(reader, of.id);
  const focus = await readFocus(reader, of.zone, { sprints, workers });
  const held = await readHeld(reader, viewer, { of, personIds: workers.ids, focus });
  const byPerson = grouped(held, ({ personId }) => personId);
  return workers.people.map(({ id, name, trades }) => {
    const own = byPerson.get(id) ?? [];
    const hours = workers.hours(id);
    const stretch = { from: today, to: addDays(monday, 7 * ROOM_WEEKS - 1) };
    const days = roomDays({ ...hours, share: focus.of(id).share }, stretch, workers.holidays);
    const load = loadByDay(
      own.filter(({ begun, planned }) => begun || planned).map(({ work }) => work),
      days,
    );
    const seen = new Set(own.filter((one) => one.seen).map((one) => one.id));
    return {
      id,
      name,
      trades,
      focus: focus.of(id),
      hoursADay: hours.hoursADay,
      weeks: Array.from({ length: ROOM_WEEKS }, (_, i) => {
        const first = addDays(monday, 7 * i);
        const last = addDays(first, 6);
        const inside = days.filter(({ day }) => first <= day && day <= last);
        const ids = new Set(inside.flatMap(({ day }) => load.get(day)?.ids ?? []));
        const shown = [...ids].filter((one) => seen.has(one));
        const room = inside.reduce((sum, one) => sum + one.hours, 0);
        return {
          monday: first,
          room: rounded(room),
          load: rounded(inside.reduce((sum, { day }) => sum + (load.get(day)?.hours ?? 0), 0)),
          away: room === 0,
          off: inside.filter(
            ({ day, hours: at }) =>
              at === 0 && hours.daysOff.some(({ from, to }) => from <= day && day <= to),
          ).length,
          ids: shown,
          unseen: ids.size - shown.length,
        };
      }),
      items: own
        .filter((one) => one.seen)
        .map(({ personId: _, seen: __, work: ___, ...shown }) => shown),
      unseen: own.length - seen.size,
    };
  });
}

const rounded = (hours: number): number => Math.round(hours * 10) / 10;

/** All that some people have and have not finished, of whatever project. */
async function readHeld(
  reader: Reader,
  viewer: Viewer,
  { of, personIds, focus }: { of: ProjectRow; personIds: readonly string[]; focus: PastFocus },
): Promise<Held[]> {
  if (personIds.length === 0) return [];
  const rows = await reader
    .select({
      id: item.id,
      key: keyColumn,
      title: item.title,
      typeId: item.typeId,
      version: item.version,
      personId: item.assigneeId,
      projectId: item.projectId,
      left: item.remainingHours,
      points: item.estimate,
      begun: sql<boolean>`${item.stateKind} in ('waiting', 'working')`,
      plannedFrom: item.plannedFrom,
      plannedTo: item.plannedTo,
      sprintFrom: sprint.startsOn,
      sprintTo: sprint.endsOn,
      seen: isSeen(seesAnywhere(reader, viewer)),
    })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .leftJoin(sprint, and(eq(sprint.id, item.sprintId), isNull(sprint.endedAt)))
    .where(
      and(
        inArray(item.assigneeId, [...personIds]),
        ne(item.stateKind, "finished"),
        isNull(item.withdrawnAt),
        isNull(project.putAwayAt),
        // A large piece is what stands under it.
        sql`${itemType.level} < ${LARGE_LEVEL}`,
      ),
    )
    .orderBy(sql`${item.stateKind} = 'unstarted'`, asc(item.rank), asc(item.id));
  return rows.map((row) => {
    const { id, personId, begun, seen, version, typeId, title, key } = row;
    const own = row.projectId === of.id;
    const { hours, about } = hoursOf(row, own ? focus.perPoint : null);
    const [from, to] = daysOf(row);
    return {
      ...{ id, key, title, typeId, version, begun, seen, hours, about, own },
      personId: personId!,
      planned: from !== null,
      work: { id, hours, from, to },
    };
  });
}

/** Hours left, else by its size: points of other projects are of another scale. */
function hoursOf(
  { left, points }: { left: number | null; points: number | null },
  perPoint: number | null,
): { hours: number | null; about: boolean } {
  if (left !== null) return { hours: left, about: false };
  if (points === null || perPoint === null) return { hours: null, about: false };
  return { hours: rounded(points * perPoint), about: true };
}

/** By hand, else its sprint; what is begun and in none has none. */
function daysOf(row: {
  plannedFrom: Day | null;
  plannedTo: Day | null;
  sprintFrom: Day | null;
  sprintTo: Day | null;
}): [Day, Day] | [null, null] {
  if (row.plannedFrom !== null) return [row.plannedFrom, row.plannedTo ?? row.plannedFrom];
  if (row.sprintFrom !== null) return [row.sprintFrom, row.sprintTo!];
  return [null, null];
}
