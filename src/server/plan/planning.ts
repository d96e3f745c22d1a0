import { and, asc, eq, inArray, isNull, ne, sql, type SQL } from "drizzle-orm";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { UNIT_LEVEL } from "@/core/item/item-type";
import { PLANNING_ROWS, type PlanItem, type PlanningView } from "@/core/plan/planning-view";
import { roomInPoints } from "@/core/plan/room";
import { sprintStanding } from "@/core/plan/sprint";
import { database, type Reader } from "@/db/connection";
import { item, itemType, project } from "@/db/schema";
import { countWhere } from "../item/count";
import { enterProject, hiddenAnywhere, seesAnywhere, seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";
import { atWork, readFocus } from "./focus";
import { planSettingsOf } from "./settings";
import { waitsAmong } from "./waits";
import { loadSprints } from "./timeboxes";
import { readWorkers } from "./workers";

/** So many sprints stand beside the backlog. */
const SPRINTS_SHOWN = 4;

/**
 * The next sprints of a project with what is planned into them, what they can take, and the backlog
 * beside them. What a person does not see counts in a sprint's sums, and says only how much it is.
 */
export async function readPlanning(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<PlanningView> {
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, viewer, where, action: "read project" });
  const of = access.project;
  const today = isoDate(dayNumber(now, of.zone));
  const all = await loadSprints(reader, of.id);
  const shown = all.filter(({ endedAt, endsOn }) => endedAt === null && endsOn >= today);
  const sprints = shown.slice(0, SPRINTS_SHOWN);
  const ids = sprints.map(({ id }) => id);
  const waiting = and(
    eq(item.projectId, of.id),
    eq(item.stateKind, "unstarted"),
    isNull(item.withdrawnAt),
    isNull(item.sprintId),
    inArray(item.typeId, unitTypes(reader, of.id)),
    seesItem(reader, viewer),
  )!;
  const [backlog, backlogTotal, planned, sums, workers] = await Promise.all([
    readItems(reader, waiting, PLANNING_ROWS),
    countWhere(reader, waiting),
    readItems(reader, and(openIn(ids), seesAnywhere(reader, viewer))!),
    sumsOf(reader, viewer, ids),
    readWorkers(reader, of.id),
  ]);
  const { holidays, people, teams, hours } = workers;
  const focus = await readFocus(reader, of.zone, { sprints: all, workers });
  return {
    project: { key: of.key, name: of.name, zone: of.zone },
    backlog,
    backlogTotal,
    sprints: sprints.map(({ past: _, ...one }) => {
      const own = atWork(workers, one);
      return {
        ...one,
        standing: sprintStanding(one, today),
        room: roomInPoints(
          focus.room,
          own.reduce((sum, { days }) => sum + days, 0),
        ),
        holidays: [...holidays].filter((day) => one.startsOn <= day && day <= one.endsOn).length,
        people: own,
        donePoints: sums.get(one.id)?.done ?? 0,
        unseen: {
          items: sums.get(one.id)?.unseen ?? 0,
          points: sums.get(one.id)?.unseenPoints ?? 0,
        },
      };
    }),
    planned,
    waits: await waitsAmong(
      reader,
      [...backlog, ...planned].map(({ id }) => id),
    ),
    people: people.map(({ id, name }) => ({
      id,
      name,
      hoursADay: hours(id).hoursADay,
      focus: focus.of(id),
    })),
    teams,
    focus: focus.team,
    past: focus.past,
    perPoint: focus.perPoint,
    settings: planSettingsOf(of),
    last: all.at(-1) ?? null,
    rights: {
      plan: access.may("plan work") && access.may("edit item"),
      settings: access.may("edit workflow"),
    },
    now,
  };
}

const unitTypes = (reader: Reader, projectId: string) =>
  reader
    .select({ id: itemType.id })
    .from(itemType)
    .where(and(eq(itemType.projectId, projectId), eq(itemType.level, UNIT_LEVEL)));

const openIn = (sprintIds: readonly string[]): SQL =>
  and(
    sprintIds.length > 0 ? inArray(item.sprintId, [...sprintIds]) : sql`false`,
    isNull(item.withdrawnAt),
    ne(item.stateKind, "finished"),
  )!;

async function readItems(reader: Reader, which: SQL, most?: number): Promise<PlanItem[]> {
  const query = reader
    .select({
      id: item.id,
      key: sql<string>`${project.key} || '-' || ${item.number}`,
      title: item.title,
      typeId: item.typeId,
      version: item.version,
      sprintId: item.sprintId,
      estimate: item.estimate,
      hoursLeft: item.remainingHours,
      assigneeId: item.assigneeId,
      teamId: item.teamId,
      priority: item.priority,
      stateKind: item.stateKind,
    })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .where(which)
    .orderBy(asc(item.rank), asc(item.id));
  return most === undefined ? query : query.limit(most);
}

/** Facts of each sprint, whoever looks: what is done in it, and what they do not see. */
async function sumsOf(reader: Reader, viewer: Viewer, sprintIds: readonly string[]) {
  if (sprintIds.length === 0) return new Map();
  const hidden = hiddenAnywhere(reader, viewer);
  const done = eq(item.stateKind, "finished");
  const rows = await reader
    .select({
      id: item.sprintId,
      done: sql<number>`coalesce(sum(${item.estimate}) filter (where ${done}), 0)::float8`,
      unseen: sql<number>`(count(*) filter (where not (${done}) and ${hidden}))::int`,
      unseenPoints: sql<number>`coalesce(sum(${item.estimate}) filter (where not (${done}) and ${hidden}), 0)::float8`,
    })
    .from(item)
    .where(and(inArray(item.sprintId, [...sprintIds]), isNull(item.withdrawnAt)))
    .groupBy(item.sprintId);
  return new Map(rows.map((row) => [row.id!, row]));
}
