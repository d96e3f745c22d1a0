import { UNIT_LEVEL } from "@/core/item/item-type";
import { and, asc, eq, gt, gte, inArray, isNull, lt, min, sql, type SQL } from "drizzle-orm";
import { dayNumber, dayStart, isoDate } from "@/core/calendar/zone";
import type { DayNumber, Instant } from "@/core/calendar/instant";
import { factsIn } from "@/core/condition/condition";
import type { ItemSnapshot } from "@/core/item/fields";
import { ageOf } from "@/core/flow/age";
import { delivered, timed, type Finished } from "@/core/flow/measures";
import { ascending, quantile } from "@/core/flow/quantile";
import {
  dayOfRow,
  forecastReach,
  HORIZON,
  isEnough,
  SURENESS,
  type PastWeek,
  type Reach,
  type Sureness,
} from "@/core/forecast/reach";
import { daysUntilAllEnd, type SurvivalStep } from "@/core/forecast/survival";
import { USUAL_REACH_WEEKS, type ReachView, type Until } from "@/core/plan/reach-view";
import type { Condition } from "@/core/condition/condition";
import { database, type Reader } from "@/db/connection";
import { flowPassage, item, itemType, stay } from "@/db/schema";
import { projectAsker } from "../condition/asker";
import { compileCondition } from "../condition/compile";
import { enterBoard } from "../board/enter";
import { readDepartures } from "../flow/facts";
import { knowingPromises } from "../intake/promise-asker";
import { isSeen, seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";
import { unstartedStates } from "./backlog";
import { whatIsLike } from "./backlog-rows";
import { readPieces, type PieceTree } from "./large-pieces";
import { lifetimesCurve, lifetimesFrom } from "./lifetimes";

/**
 * How far down its backlog a project will probably get. A fact of the project: it counts what the
 * person may not see, and says only how much that is.
 * @param asked.weeks from how many past weeks it is drawn, where there are so many
 * @param asked.filter what is shown: what is not counts, and is hidden
 */
export async function readReach(
  viewer: Viewer,
  projectKey: string,
  { weeks = USUAL_REACH_WEEKS, filter }: { weeks?: number; filter?: Condition } = {},
  now = Date.now(),
): Promise<ReachView> {
  const shown = filter && (await idsLike(viewer, projectKey, filter, now));
  const future = await drawFuture(viewer, projectKey, weeks, now);
  const { rows, running, past, reach, pieces } = future;
  const took = ascending(past.took);
  return {
    today: isoDate(future.today),
    reach,
    past: { weeks: past.weeks.length, finished: past.took.length },
    ahead: running.length,
    took: { sure: quantile(took, SURENESS.sure), even: quantile(took, SURENESS.even) },
    hiddenAfter: hiddenAfter(rows, shown),
    until: reach ? untilOf({ ...future, reach, tree: pieces.tree }) : {},
    pieces: pieces.seen,
  };
}

/**
 * When each open item of a project that somebody sees will probably be finished, and all that is open
 * under each large piece; in days from today. Nothing where there is too little past.
 */
export async function readUntil(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<{ until: Record<string, Until>; took: number | null }> {
  const future = await drawFuture(viewer, projectKey, USUAL_REACH_WEEKS, now);
  const { rows, running, ages, curve, reach, pieces, past } = future;
  if (!reach) return { until: {}, took: null };
  const boxes = untilOf({ ...future, reach, tree: pieces.tree });
  const own = (of: (how: Sureness) => number | null): Until => ({
    sure: of("sure"),
    even: of("even"),
  });
  const ofAge = new Map<number, Until>();
  const untilOfAge = (age: number): Until => {
    const known = ofAge.get(age);
    if (known) return known;
    const told = own((how) =>
      daysUntilAllEnd(curve, [age], { chance: SURENESS[how], horizon: HORIZON }),
    );
    ofAge.set(age, told);
    return told;
  };
  const told: [string, Until][] = [
    ...rows.map(({ id }, i): [string, Until] => [id, own((how) => dayOfRow(reach, i + 1, how))]),
    ...running.map(({ id }, i): [string, Until] => [id, untilOfAge(ages[i])]),
  ];
  const hidden = new Set([...rows, ...running].filter(({ seen }) => !seen).map(({ id }) => id));
  const shown = pieces.seen.flatMap(({ id }): [string, Until][] =>
    boxes[id] ? [[id, boxes[id]]] : [],
  );
  return {
    until: Object.fromEntries([...told.filter(([id]) => !hidden.has(id)), ...shown]),
    took: quantile(ascending(past.took), SURENESS.even),
  };
}

/** What waits and what runs in a project, and how it will probably go on. */
async function drawFuture(viewer: Viewer, projectKey: string, weeks: number, now: Instant) {
  const entered = await enterBoard(projectKey, { viewer, boardId: null, now });
  const { reader, project, board } = entered;
  const scope = await wholeScope(reader, project, board, now);
  const today = dayNumber(now, project.zone);
  const waiting = and(inArray(item.stateId, unstartedStates(entered)), scope);
  const [rows, running, past, pieces] = await Promise.all([
    unitsOf(reader, viewer, project.id, {
      which: and(waiting, isNull(item.withdrawnAt))!,
      waits: true,
    }),
    unitsOf(reader, viewer, project.id, { which: IN_PROGRESS, waits: false }),
    readPast(reader, project, { today, weeks }),
    readPieces(reader, viewer, project),
  ]);
  const facts = { weeks: past.weeks, ahead: running.length, took: past.took };
  const reach = isEnough(facts)
    ? forecastReach(facts, { rows: rows.length, seed: seedOf(project.id, today) })
    : null;
  const ages = running.map(({ clock }) => ageOf(clock, project.zone, now).age);
  const curve = lifetimesCurve(past.lately, ages);
  return { today, rows, running, past, pieces, reach, ages, curve };
}

const IN_PROGRESS = and(isNull(item.withdrawnAt), inArray(item.stateKind, ["waiting", "working"]))!;

/** The same for the whole of a day, and another one the next. */
const seedOf = (projectId: string, today: DayNumber): number =>
  [...projectId].reduce((sum, c) => (Math.imul(sum, 31) + c.charCodeAt(0)) | 0, today);

/** What a board is about, whoever looks at it. */
async function wholeScope(
  reader: Reader,
  project: { id: string; key: string; zone: string },
  { scope }: { scope: Parameters<typeof compileCondition>[0] | null },
  now: Instant,
): Promise<SQL | undefined> {
  if (scope === null) return undefined;
  const asker = await projectAsker(reader, project, now);
  return compileCondition(scope, await knowingPromises(asker, [project], factsIn(scope)));
}

/** What waits has no clock that runs: of thousands of rows none is read. */
const NO_CLOCK = sql<ItemSnapshot["clock"]>`'[]'::jsonb`;

/** The units that figures are of, in the order of their rank. */
async function unitsOf(
  reader: Reader,
  viewer: Viewer,
  projectId: string,
  { which, waits }: { which: SQL; waits: boolean },
) {
  return reader
    .select({
      id: item.id,
      sprintId: item.sprintId,
      releaseId: item.releaseId,
      parentId: item.parentId,
      clock: waits ? NO_CLOCK : item.clock,
      seen: isSeen(seesItem(reader, viewer)),
    })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(and(eq(item.projectId, projectId), eq(itemType.level, UNIT_LEVEL), which))
    .orderBy(asc(item.rank), asc(item.id));
}
type Unit = Awaited<ReturnType<typeof unitsOf>>[number];

/** The ids of the items of a project that are like what somebody asks for, who sees them. */
async function idsLike(
  viewer: Viewer,
  projectKey: string,
  filter: Condition,
  now: Instant,
): Promise<ReadonlySet<string>> {
  const rows = await database()
    .select({ id: item.id })
    .from(item)
    .where(await whatIsLike(viewer, projectKey, filter, now));
  return new Set(rows.map(({ id }) => id));
}

/**
 * Of each row that is not there for whoever looks, how many that are stand before it.
 * @param shown those that a filter leaves; all where it is left out
 */
function hiddenAfter(rows: readonly Unit[], shown?: ReadonlySet<string>): number[] {
  let seen = 0;
  return rows.flatMap((row) => {
    if (!row.seen || (shown && !shown.has(row.id))) return [seen];
    seen += 1;
    return [];
  });
}

/** What was delivered in whole weeks that end yesterday, and how long it took. */
async function readPast(
  reader: Reader,
  project: { id: string; zone: string },
  { today, weeks: wanted }: { today: DayNumber; weeks: number },
): Promise<{ weeks: PastWeek[]; took: number[]; lately: Finished[] }> {
  const { zone } = project;
  const [{ first }] = await reader
    .select({ first: min(flowPassage.at) })
    .from(flowPassage)
    .where(eq(flowPassage.projectId, project.id));
  if (first === null) return { weeks: [], took: [], lately: [] };
  const whole = Math.floor((today - dayNumber(first, zone)) / 7);
  const count = Math.min(wanted, whole);
  const begins = today - 7 * count;
  const from = dayStart(Math.min(begins, lifetimesFrom(today)), zone);
  const period = { from, to: dayStart(today, zone) };
  const departures = await readDepartures(reader, { project }, period);
  const lately = delivered(timed(departures, zone));
  const planned = await cameFromBacklog(reader, project.id, period);
  const weeks = Array.from({ length: count }, () => [0, 0, 0, 0, 0, 0, 0]);
  const took: number[] = [];
  for (const { itemId, at, days } of lately) {
    const day = dayNumber(at, zone) - begins;
    if (day < 0 || !planned.has(itemId)) continue;
    weeks[Math.floor(day / 7)][day % 7] += 1;
    took.push(days);
  }
  return { weeks, took, lately };
}

/** Which of the items that finished in a period had waited in the backlog before they were begun. */
async function cameFromBacklog(
  reader: Reader,
  projectId: string,
  { from, to }: { from: Instant; to: Instant },
): Promise<Set<string>> {
  const rows = await reader
    .selectDistinct({ id: stay.itemId })
    .from(flowPassage)
    .innerJoin(stay, eq(stay.itemId, flowPassage.itemId))
    .where(
      and(
        eq(flowPassage.projectId, projectId),
        eq(flowPassage.kind, "delivered"),
        gte(flowPassage.at, from),
        lt(flowPassage.at, to),
        eq(stay.kind, "unstarted"),
        gt(stay.leftAt, stay.enteredAt),
      ),
    );
  return new Set(rows.map(({ id }) => id));
}

/**
 * When all that is open in each sprint, release and large piece will be finished: what waits by its
 * place in the backlog, what is in progress by its age.
 */
function untilOf({
  rows,
  running,
  ages,
  curve,
  reach,
  tree,
}: {
  rows: readonly Unit[];
  running: readonly Unit[];
  ages: readonly number[];
  curve: readonly SurvivalStep[];
  reach: Reach;
  tree: PieceTree;
}): Record<string, Until> {
  const open = new Map<string, { last: number; ages: number[] }>();
  const add = (unit: Unit, into: (of: { last: number; ages: number[] }) => void) => {
    const boxes = [unit.sprintId, unit.releaseId, ...tree.above(unit.parentId)];
    for (const id of boxes) {
      if (id === null) continue;
      const of = open.get(id) ?? { last: 0, ages: [] };
      open.set(id, of);
      into(of);
    }
  };
  rows.forEach((unit, i) => add(unit, (of) => (of.last = i + 1)));
  running.forEach((unit, i) => add(unit, (of) => of.ages.push(ages[i])));
  const by = (of: { last: number; ages: number[] }, how: keyof Until): number | null => {
    const waits = of.last === 0 ? 0 : dayOfRow(reach, of.last, how);
    const runs = daysUntilAllEnd(curve, of.ages, { chance: SURENESS[how], horizon: HORIZON });
    return waits === null || runs === null ? null : Math.max(waits, runs);
  };
  return Object.fromEntries(
    [...open].map(([id, of]) => [id, { sure: by(of, "sure"), even: by(of, "even") }]),
  );
}
