import { and, asc, eq, gte, inArray, isNull, lte, sql, type SQL } from "drizzle-orm";
import { addDays, type Day } from "@/core/calendar/month";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { mondayOf, weekDays, type WeekRow, type WeekView } from "@/core/time/week";
import { database, type Reader } from "@/db/connection";
import { item, person, project, timeEntry } from "@/db/schema";
import { hoursOf } from "../alerts/hours";
import { loadRules } from "../intake/rules";
import { keyColumn } from "../item/key";
import { enterProject, hiddenAnywhere, isSeen, seesAnywhere } from "../people/access";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { notAllowed } from "../refused";

/** So many of the items in somebody's hands are offered to record on. */
const OFFERED = 12;

/**
 * A week of somebody: what they recorded on each day, across projects, as far as whoever looks may
 * see what it was on. Only leads look at the weeks of the people of their project.
 * @throws Refused
 */
export async function readWeek(
  viewer: Viewer,
  projectKey: string,
  asked: { day?: Day; person?: string },
  now = Date.now(),
): Promise<WeekView> {
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, viewer, where, action: "read project" });
  const { people } = await roster(reader, access.project.id);
  const workers = people.filter(({ role }) => role !== "observer");
  const personId = asked.person ?? viewer.personId;
  const mine = personId === viewer.personId;
  const leads = access.may("read time of others");
  if (!mine && !(leads && workers.some(({ id }) => id === personId)))
    throw notAllowed("looking at the weeks of others");
  const today = isoDate(dayNumber(now, access.project.zone));
  const monday = mondayOf(asked.day ?? today);
  const week = and(
    gte(timeEntry.on, monday),
    lte(timeEntry.on, addDays(monday, 6)),
    isNull(timeEntry.goneAt),
  )!;
  const shown = leads ? workers.map(({ id, name }) => ({ id, name })) : [];
  const [rows, unseen, minutes, hours, { calendar }, [named]] = await Promise.all([
    readRows(reader, and(week, eq(timeEntry.personId, personId), seesAnywhere(reader, viewer))!),
    readUnseen(
      reader,
      and(week, eq(timeEntry.personId, personId), hiddenAnywhere(reader, viewer))!,
    ),
    minutesOf(reader, week, shown),
    hoursOf(reader, [personId]),
    loadRules(reader, access.project.id),
    reader.select({ name: person.name }).from(person).where(eq(person.id, personId)),
  ]);
  const own = hours(personId);
  return {
    person: { id: personId, name: named.name },
    people: shown.map((one) => ({ ...one, minutes: minutes.get(one.id) ?? 0 })),
    days: weekDays(monday, own, new Set(calendar.holidays.map(({ date }) => date))),
    today,
    hoursADay: own.hoursADay,
    rows,
    unseen,
    inHand: mine
      ? await inHandOf(
          reader,
          viewer,
          rows.map(({ itemId }) => itemId),
        )
      : [],
    mine,
  };
}

async function readRows(reader: Reader, which: SQL): Promise<WeekRow[]> {
  const entries = await reader
    .select({
      itemId: item.id,
      key: keyColumn,
      title: item.title,
      left: item.remainingHours,
      entryId: timeEntry.id,
      personId: timeEntry.personId,
      on: timeEntry.on,
      minutes: timeEntry.minutes,
      note: timeEntry.note,
    })
    .from(timeEntry)
    .innerJoin(item, eq(item.id, timeEntry.itemId))
    .where(which)
    .orderBy(asc(timeEntry.on), asc(timeEntry.at));
  const rows = new Map<string, WeekRow>();
  for (const { itemId, key, title, left, ...entry } of entries) {
    const row = rows.get(itemId) ?? { itemId, key, title, left, entries: [] };
    rows.set(itemId, row);
    row.entries.push(entry);
  }
  return [...rows.values()];
}

async function readUnseen(reader: Reader, which: SQL): Promise<Record<Day, number>> {
  const rows = await reader
    .select({ on: timeEntry.on, minutes: sql<number>`sum(${timeEntry.minutes})::int` })
    .from(timeEntry)
    .innerJoin(item, eq(item.id, timeEntry.itemId))
    .where(which)
    .groupBy(timeEntry.on);
  return Object.fromEntries(rows.map(({ on, minutes }) => [on, minutes]));
}

/** What each of some people recorded: a fact of the project, whoever looks. */
async function minutesOf(
  reader: Reader,
  week: SQL,
  people: readonly { id: string }[],
): Promise<ReadonlyMap<string, number>> {
  if (people.length === 0) return new Map();
  const ids = people.map(({ id }) => id);
  const rows = await reader
    .select({ id: timeEntry.personId, minutes: sql<number>`sum(${timeEntry.minutes})::int` })
    .from(timeEntry)
    .where(and(week, inArray(timeEntry.personId, ids)))
    .groupBy(timeEntry.personId);
  return new Map(rows.map(({ id, minutes }) => [id, minutes]));
}

/** What somebody has in hand, but for some of it; what they touched last first. */
const inHandOf = (reader: Reader, viewer: Viewer, but: readonly string[]) =>
  reader
    .select({ id: item.id, key: keyColumn, title: item.title, left: item.remainingHours })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .where(
      and(
        eq(item.assigneeId, viewer.personId),
        inArray(item.stateKind, ["waiting", "working"]),
        isNull(item.withdrawnAt),
        isNull(project.putAwayAt),
        isSeen(seesAnywhere(reader, viewer)),
        but.length > 0 ? sql`not (${inArray(item.id, [...but])})` : undefined,
      ),
    )
    .orderBy(sql`${item.updatedAt} desc`)
    .limit(OFFERED);
