import { inArray } from "drizzle-orm";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { arrangeDay } from "@/core/today/arrange";
import { daySentence, waitingCount } from "@/core/today/sentence";
import type { TodayView } from "@/core/today/today-view";
import { database } from "@/db/connection";
import { person } from "@/db/schema";
import { flowSummary, pacesOf } from "../flow/read";
import { readAgreedChanges } from "../item/agreed-seen";
import { namedItems } from "../item/list/named";
import { readShownTo } from "../ship/acceptance/shown-to";
import { enterProject } from "../people/access";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { chancesFor, dayItemOf, dayRows } from "./day-items";
import { dayProjects, stateMeanings } from "./ground";
import { readPull } from "./pull";
import { readNews, readQuestions } from "./questions";
import { readSmallThings } from "./small-things";
import { readTeam } from "./team";

/**
 * A day over all projects that somebody works in.
 * @param openId the project that is open; without one no ages are drawn, for whoever only counts
 */
async function dayOf(
  viewer: Viewer,
  { zone, openId }: { zone: string; openId: string | null },
  now: number,
) {
  const reader = database();
  const [projects, questions, news, changed, shownTo] = await Promise.all([
    dayProjects(reader, viewer),
    readQuestions(reader, viewer),
    readNews(reader, viewer, now),
    readAgreedChanges(reader, viewer),
    readShownTo(reader, viewer, now),
  ]);
  const meanings = stateMeanings(projects);
  const also = [...questions.asked, ...questions.asking, ...news, ...changed, ...shownTo].map(
    ({ itemId }) => itemId,
  );
  const rows = await dayRows(reader, viewer, { projects, meanings, also });
  const shown = projects.filter(
    ({ access: { project: of } }) =>
      openId !== null && (of.id === openId || rows.some((row) => row.projectId === of.id)),
  );
  const [names, keys, paces, chances] = await Promise.all([
    namesOf(rows.flatMap(({ reviewerId }) => reviewerId ?? [])),
    keysOf(
      viewer,
      rows.flatMap((row) => row.openBlockers.flatMap(({ dependencyId }) => dependencyId ?? [])),
    ),
    pacesOf(
      shown.map(({ access }) => access.project),
      now,
    ),
    openId === null ? NO_CHANCES : chancesFor(reader, rows, { viewer, projects, now }),
  ]);
  const items = rows.flatMap(
    (row) =>
      dayItemOf(row, {
        viewer,
        projects,
        meanings,
        paces,
        nameOf: (id) => names.get(id) ?? null,
        keyOf: (id) => keys.get(id) ?? null,
        chances,
        now,
      }) ?? [],
  );
  const today = isoDate(dayNumber(now, zone));
  const day = arrangeDay({ items, ...questions, news, changed, shown: shownTo, today, now });
  return { reader, projects, meanings, rows, today, day };
}

const NO_CHANCES = new Map<string, never>();

async function namesOf(ids: readonly string[]): Promise<Map<string, string>> {
  if (ids.length === 0) return new Map();
  const rows = await database()
    .select({ id: person.id, name: person.name })
    .from(person)
    .where(inArray(person.id, [...new Set(ids)]));
  return new Map(rows.map(({ id, name }) => [id, name]));
}

/** The keys of some items, as far as a person may see them. */
async function keysOf(viewer: Viewer, ids: readonly string[]): Promise<Map<string, string>> {
  const items = [...(await namedItems(viewer, ids)).values()];
  return new Map(items.flatMap(({ id, key, withdrawn }) => (withdrawn ? [] : [[id, key]])));
}

/** Somebody's day over all projects, and beside it what concerns the project that is open. */
export async function readToday(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<TodayView> {
  const access = await enterProject({
    reader: database(),
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const { zone, name, key, id } = access.project;
  const whole = await dayOf(viewer, { zone, openId: id }, now);
  const { reader, projects, meanings, rows, today, day } = whole;
  const open = projects.find((one) => one.works && one.access.project.id === id);
  const summary = open && (await flowSummary(open.access, viewer, now));
  const [pulled, team, small, { people }] = await Promise.all([
    open && summary
      ? readPull(viewer, open, { summary, today, now })
      : { pull: [], noPull: "You look on in this project." },
    open && summary ? readTeam(reader, viewer, { open, summary }, now) : [],
    readSmallThings(reader, viewer, { own: rows, projects, open, meanings, now }),
    roster(reader, id),
  ]);
  const load = summary?.loads[viewer.personId];
  return {
    project: { key, name, zone },
    today,
    sentence: daySentence(day, load?.room ?? null),
    day,
    ...pulled,
    room: load ?? null,
    team,
    small,
    people,
    now,
  };
}

/** How much of somebody's day waits for them, for the course bar. */
export async function readTodayCount(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<{ waiting: number }> {
  const access = await enterProject({
    reader: database(),
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const { day } = await dayOf(viewer, { zone: access.project.zone, openId: null }, now);
  return { waiting: waitingCount(day) };
}
