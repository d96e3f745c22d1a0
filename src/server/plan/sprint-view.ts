import { and, asc, eq, inArray, isNull, ne, sql } from "drizzle-orm";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { workOfDay } from "@/core/calendar/working-time";
import { sprintOutcome, type ItemOverTime } from "@/core/plan/sprint-ledger";
import {
  sprintBounds,
  sprintStanding,
  type PlannedSprint,
  type SprintBounds,
} from "@/core/plan/sprint";
import type { OpenInSprint, SprintView } from "@/core/plan/sprint-view";
import { database, type Reader } from "@/db/connection";
import { item, person, project, sprint, state } from "@/db/schema";
import { loadRules } from "../intake/rules";
import { enterProject, isSeen, seesAnywhere } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { pastSprint } from "./past-sprints";
import { readScopeChanges } from "./scope-changes";
import { counted, daysOf, leftIn } from "./sprint-days";
import { sprintHours, timeboxItems, workedOn } from "./timebox-items";
import { loadSprints } from "./timeboxes";

type Row = typeof sprint.$inferSelect;

/** So many sprints before it are told of. */
const PAST_SHOWN = 8;

/** A sprint of a project with its figures. @throws Refused where it has none such */
export async function readSprint(
  viewer: Viewer,
  projectKey: string,
  sprintId: string,
  now = Date.now(),
): Promise<SprintView> {
  const reader = database();
  const { project: of, may } = await enterProject({
    reader,
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const all = await loadSprints(reader, of.id);
  const own = all.find(({ id }) => id === sprintId);
  if (!own) throw notFound("sprint");
  const [row] = await reader.select().from(sprint).where(eq(sprint.id, sprintId));
  const today = isoDate(dayNumber(now, row.zone));
  const before = all
    .filter(({ endsOn, endedAt }) => endedAt !== null && endsOn < own.startsOn)
    .slice(-PAST_SHOWN);
  const members = await timeboxItems(reader, [sprintId, ...before.map(({ id }) => id)]);
  const items = members.get(sprintId) ?? [];
  const bounds = sprintBounds(row, now);
  const inHours = await sprintHours(reader, items);
  const worked = await workedOn(
    reader,
    inHours.map(({ id }) => id),
  );
  const seen = await seenAmong(reader, viewer, inHours);
  const { calendar } = await loadRules(reader, of.id);
  const worksOn = (day: number) => workOfDay(calendar, day, row.zone) !== null;
  const open = await openIn(reader, viewer, sprintId);
  const [by] = row.endedBy
    ? await reader.select({ name: person.name }).from(person).where(eq(person.id, row.endedBy))
    : [];
  return {
    project: { key: of.key, name: of.name, zone: of.zone },
    sprint: {
      ...pickSprint(row),
      standing: sprintStanding(row, today),
      reached: row.goalReached,
      words: row.endWords ?? "",
      endedBy: by?.name ?? null,
    },
    sprints: all.map((one) => ({
      id: one.id,
      name: one.name,
      startsOn: one.startsOn,
      endsOn: one.endsOn,
      standing: sprintStanding(one, today),
    })),
    begins: bounds ? leftIn({ items, inHours }, bounds.start) : null,
    days: daysOf({ row, items, inHours, worked, bounds, seen, worksOn, now }),
    outcome: bounds ? outcomeOf(items, bounds, seen) : null,
    scopeChanges: bounds ? await readScopeChanges(reader, viewer, sprintId, bounds) : [],
    past: before.map((one) => pastSprint(one, row.zone, members.get(one.id) ?? [])),
    open: open.seen,
    openUnseen: open.unseen,
    next: all
      .filter((one) => one.id !== sprintId && one.endedAt === null && one.endsOn >= today)
      .map(({ id, name }) => ({ id, name })),
    rights: { plan: may("plan work"), edit: may("edit item") },
    now,
  };
}

/** The sprint that runs, else the last one that began, else the first; null where there is none. */
export async function sprintToShow(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<string | null> {
  const reader = database();
  const where = { key: projectKey };
  const { project: of } = await enterProject({ reader, viewer, where, action: "read project" });
  const all = await loadSprints(reader, of.id);
  const today = isoDate(dayNumber(now, of.zone));
  const having = (standing: string) =>
    all.findLast((one) => sprintStanding(one, today) === standing)?.id;
  return having("running") ?? having("over") ?? having("ended") ?? all[0]?.id ?? null;
}

const pickSprint = ({
  id,
  name,
  goal,
  startsOn,
  endsOn,
  startedAt,
  endedAt,
}: Row): PlannedSprint => ({
  id,
  name,
  goal,
  startsOn,
  endsOn,
  startedAt,
  endedAt,
});

/** Of some items those that a person may see. */
async function seenAmong(
  reader: Reader,
  viewer: Viewer,
  items: readonly ItemOverTime[],
): Promise<ReadonlySet<string>> {
  if (items.length === 0) return new Set();
  const rows = await reader
    .select({ id: item.id })
    .from(item)
    .where(
      and(
        inArray(
          item.id,
          items.map(({ id }) => id),
        ),
        seesAnywhere(reader, viewer),
      ),
    );
  return new Set(rows.map(({ id }) => id));
}

function outcomeOf(
  items: readonly ItemOverTime[],
  bounds: SprintBounds,
  seen: ReadonlySet<string>,
): SprintView["outcome"] {
  const told = sprintOutcome(items, bounds);
  return {
    committed: { ...counted(told.committed, seen), points: told.committedPoints },
    added: counted(told.added, seen),
    takenOut: counted(told.takenOut, seen),
    delivered: counted(told.delivered, seen),
    carriedOver: counted(told.carriedOver, seen),
    unsized: counted(told.unsized, seen),
    interruptions: counted(told.interruptions, seen),
    velocity: told.velocity,
  };
}

/** What is open in a sprint now, of whatever project, as far as a person sees it. */
async function openIn(
  reader: Reader,
  viewer: Viewer,
  sprintId: string,
): Promise<{ seen: OpenInSprint[]; unseen: number }> {
  const rows = await reader
    .select({
      id: item.id,
      key: sql<string>`${project.key} || '-' || ${item.number}`,
      title: item.title,
      typeId: item.typeId,
      stateName: state.name,
      estimate: item.estimate,
      seen: isSeen(seesAnywhere(reader, viewer)),
    })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .innerJoin(state, eq(state.id, item.stateId))
    .where(
      and(eq(item.sprintId, sprintId), isNull(item.withdrawnAt), ne(item.stateKind, "finished")),
    )
    .orderBy(asc(item.rank), asc(item.id));
  const shown = rows.filter(({ seen }) => seen);
  return {
    seen: shown.map(({ seen: _, ...of }) => of),
    unseen: rows.length - shown.length,
  };
}
