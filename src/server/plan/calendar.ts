import { dayNumber, isoDate } from "@/core/calendar/zone";
import { daysShown, type CalendarView } from "@/core/plan/calendar-view";
import type { Day } from "@/core/calendar/month";
import { database, type Reader } from "@/db/connection";
import { hoursOf } from "../alerts/hours";
import { loadRules } from "../intake/rules";
import { enterProject } from "../people/access";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { feedsOf } from "./calendar-feed";
import { datedItems, datedReleases, datedSprints, ofProjects } from "./dated";
import { loadReleases } from "./timeboxes";

/** So many items with a day are shown in a month at most. */
const MOST_ITEMS = 500;

/** What stands on the days of a month of a project. @throws Refused */
export async function readCalendar(
  viewer: Viewer,
  projectKey: string,
  day: Day | undefined,
  now = Date.now(),
): Promise<CalendarView> {
  const reader = database();
  const where = { key: projectKey };
  const { project } = await enterProject({ reader, viewer, where, action: "read project" });
  const today = isoDate(dayNumber(now, project.zone));
  const month = `${(day ?? today).slice(0, 7)}-01`;
  const shown = daysShown(month);
  const ids = [project.id];
  const [sprints, releases, all, items, { calendar }, away, feeds] = await Promise.all([
    project.usesSprints ? datedSprints(reader, ids, shown, now) : [],
    datedReleases(reader, ids, shown),
    loadReleases(reader, project.id),
    datedItems(reader, viewer, ofProjects(ids), { ...shown, most: MOST_ITEMS }),
    loadRules(reader, project.id),
    readAway(reader, project.id, shown),
    feedsOf(reader, viewer, project.id),
  ]);
  return {
    project: { key: project.key, name: project.name, zone: project.zone },
    month,
    today,
    sprints,
    releases,
    begins: all.flatMap(({ id, name, startsOn, releasedAt }) =>
      startsOn !== null && releasedAt === null && shown.from <= startsOn && startsOn <= shown.to
        ? [{ id, name, on: startsOn }]
        : [],
    ),
    undated: all
      .filter(({ dueOn, releasedAt }) => dueOn === null && releasedAt === null)
      .map(({ id, name }) => ({ id, name })),
    items,
    holidays: calendar.holidays.filter(({ date }) => shown.from <= date && date <= shown.to),
    away,
    feeds,
  };
}

/** Who of a project's people is away in a stretch of days. */
async function readAway(
  reader: Reader,
  projectId: string,
  { from, to }: { from: Day; to: Day },
): Promise<CalendarView["away"]> {
  const { people } = await roster(reader, projectId);
  const workers = people.filter(({ role }) => role !== "observer");
  const hours = await hoursOf(
    reader,
    workers.map(({ id }) => id),
  );
  return workers.flatMap(({ id, name }) =>
    hours(id)
      .daysOff.filter((one) => one.from <= to && one.to >= from)
      .map((one) => ({
        id,
        name,
        from: one.from < from ? from : one.from,
        to: one.to > to ? to : one.to,
      })),
  );
}
