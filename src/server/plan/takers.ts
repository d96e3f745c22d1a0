import { and, eq, gte, isNotNull, ne, or, sql } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { counted } from "@/core/formats/counted";
import { listWords } from "@/core/formats/list-words";
import { takers } from "@/core/plan/people-room";
import type { PersonRoom, TakersView } from "@/core/plan/room-view";
import { grouped } from "@/core/item/grouped";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { enterProject, seesAnywhere } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { roomOf } from "./people-room";

/** Room in so many weeks counts. */
const WEEKS = 2;
/** What was finished longer ago than so many days says little of who can do it now. */
const SIMILAR_DAYS = 365;

/**
 * Who of a project's people could take one of its items: who has room in the next two weeks and has
 * finished the like, with the reason.
 * @throws Refused
 */
export async function readTakers(
  viewer: Viewer,
  projectKey: string,
  itemId: string,
  now = Date.now(),
): Promise<TakersView> {
  const reader = database();
  const where = { key: projectKey };
  const { project: of } = await enterProject({ reader, viewer, where, action: "read project" });
  const [row] = await reader
    .select()
    .from(item)
    .where(and(eq(item.id, itemId), eq(item.projectId, of.id), seesAnywhere(reader, viewer)));
  if (!row) throw notFound("item");
  // Alike is what is about the same part, else what has a label with it, else what is of its type.
  const alike =
    row.parts.length > 0
      ? { where: overlaps(item.parts, row.parts), words: `of the part ${listWords(row.parts)}` }
      : row.labels.length > 0
        ? { where: overlaps(item.labels, row.labels), words: `labelled ${listWords(row.labels)}` }
        : { where: eq(item.typeId, row.typeId), words: "of its type" };
  const [people, finished] = await Promise.all([
    roomOf(reader, viewer, of, now),
    reader
      .select({ id: item.id, personId: item.assigneeId })
      .from(item)
      .where(
        and(
          eq(item.projectId, of.id),
          alike.where,
          isNotNull(item.assigneeId),
          gte(item.deliveredAt, now - SIMILAR_DAYS * DAY),
          ne(item.id, itemId),
          seesAnywhere(reader, viewer),
        ),
      ),
  ]);
  const doneBy = grouped(finished, ({ personId }) => personId!);
  const own = people.flatMap(({ items }) => items).find(({ id }) => id === itemId);
  const hours = own?.hours ?? row.remainingHours;
  const candidates = people
    .filter(({ id }) => id !== row.assigneeId)
    .map((person) => ({
      id: person.id,
      name: person.name,
      trades: person.trades,
      ...freeOf(person),
      similar: doneBy.get(person.id)?.length ?? 0,
    }));
  return {
    hours,
    takers: takers(candidates, hours ?? 0).map(({ id, name, trades, free, similar }) => ({
      id,
      name,
      free,
      fits: free >= (hours ?? 0),
      similar: (doneBy.get(id) ?? []).map((one) => one.id),
      why: [
        ...trades,
        similar > 0 ? `finished ${similar} ${alike.words} in a year` : `none ${alike.words} yet`,
        free > 0
          ? `${Math.round(free)} h free in ${counted(WEEKS, "week")}`
          : `${Math.round(-free)} h too much in ${counted(WEEKS, "week")}`,
      ].join(", "),
    })),
  };
}

const overlaps = (column: typeof item.parts | typeof item.labels, names: readonly string[]) =>
  or(...names.map((name) => sql`${column} @> ${JSON.stringify([name])}::jsonb`))!;

function freeOf({ weeks }: PersonRoom): { free: number; away: boolean } {
  const soon = weeks.slice(0, WEEKS);
  return {
    free: soon.reduce((sum, { room, load }) => sum + room - load, 0),
    away: soon.every(({ away }) => away),
  };
}
