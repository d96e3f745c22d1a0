import { type z } from "zod";
import { ladder } from "@/core/board/column";
import { brokenLimit } from "@/core/flow/broken-limit";
import type { Instant } from "@/core/calendar/instant";
import { dayNumber, dayStart, isoDate } from "@/core/calendar/zone";
import { lastWeeks } from "@/core/flow/period";
import { delivered, timed } from "@/core/flow/measures";
import { maskIds, maskPulse, maskReport } from "@/core/flow/outside-view";
import { pulse, PULSE_WINDOW_WEEKS, runningWeek } from "@/core/flow/pulse";
import { flowReport, percentiles } from "@/core/flow/report";
import { flowTimes } from "@/core/flow/time-in-state";
import { database } from "@/db/connection";
import { readShipped } from "./shipped";
import { readUnplanned } from "./unplanned";
import { projectLimits } from "../board/board-limits";
import { readLoads } from "../board/loads";
import { readLimitBreaks } from "./limit-breaks";
import { loadBoard } from "../board/load";
import { newestEventId, newestEventIds } from "../events/newest";
import { readTriageFigures } from "../intake/triage-figures";
import { readKeptPromises } from "../intake/promises";
import { enterProject, hiddenItems, type ProjectAccess, type ProjectRow } from "../people/access";
import type { Viewer } from "../people/viewer";
import { projectTypes } from "../workflow/load";
import {
  readDepartures,
  readFlowFacts,
  readInState,
  readPassers,
  readRunning,
  readStateSums,
} from "./facts";
import { type FlowQuery, PERIODS, type bandQuery } from "@/core/flow/request";
import type { LearnView } from "@/core/flow/learn-view";
import type { Paces } from "@/core/flow/pace";
import type { FlowSummary } from "@/core/flow/summary";

const expectationOf = (project: ProjectRow) => ({
  days: project.expectationDays,
  share: project.expectationShare,
});

/** The summary of a project that the caller has entered for "read flow". */
export async function flowSummary(
  { project }: ProjectAccess,
  viewer: Viewer,
  now = Date.now(),
): Promise<FlowSummary> {
  const lastEvent = await newestEventId(database(), project.id);
  const [summary, hidden] = await Promise.all([
    keptSummary(project, { lastEvent, now, keptMs: SUMMARY_KEPT_MS }),
    hiddenItems(database(), viewer, project.id),
  ]);
  return { ...summary, pulse: maskPulse(summary.pulse, hidden) };
}

/**
 * How long items of some projects take, and are expected to, by their keys. Twelve weeks say that,
 * so where nothing has happened it holds for longer than what is in progress just now.
 */
export async function pacesOf(projects: readonly ProjectRow[], now = Date.now()): Promise<Paces> {
  const newest = await newestEventIds(
    database(),
    projects.map(({ id }) => id),
  );
  const summaries = await Promise.all(
    projects.map((one) =>
      keptSummary(one, { lastEvent: newest(one.id), now, keptMs: PACES_KEPT_MS }),
    ),
  );
  return Object.assign({}, ...summaries.map(({ paces }) => paces)) as Paces;
}

/** @param kept.keptMs how old a summary may be that is taken as it is */
function keptSummary(
  project: ProjectRow,
  { lastEvent, now, keptMs }: { lastEvent: number; now: Instant; keptMs: number },
): Promise<FlowSummary> {
  const known = summaries.get(project.id);
  if (known && known.lastEvent === lastEvent && Math.abs(now - known.at) < keptMs)
    return known.summary;
  const summary = summarise(project, now);
  summaries.set(project.id, { lastEvent, at: now, summary });
  summary.catch(() => summaries.delete(project.id));
  return summary;
}

/**
 * Every open page asks for the same summary after each change; it is computed once for all of them.
 * It is made anew when something happened, and after a few seconds all the same, because numbers
 * of events may become visible out of order.
 */
const summaries = new Map<
  string,
  { lastEvent: number; at: number; summary: Promise<FlowSummary> }
>();
const SUMMARY_KEPT_MS = 5_000;
const PACES_KEPT_MS = 120_000;

async function summarise(project: ProjectRow, now: Instant): Promise<FlowSummary> {
  const db = database();
  const { zone } = project;
  const twelveWeeks = lastWeeks(PULSE_WINDOW_WEEKS, zone, now);
  const scope = { project };
  const [departures, times, running, { started, finished }, { columns }] = await Promise.all([
    readDepartures(db, scope, twelveWeeks),
    readStateSums(db, scope, twelveWeeks),
    readRunning(db, scope),
    readPassers(db, scope, runningWeek(zone, now)),
    loadBoard(db, project.id),
  ]);
  const recent = delivered(timed(departures, zone));
  const facts = { recent, times, running, arrived: started, departed: finished };
  const limits = await projectLimits({ reader: db, project, now });
  return {
    pulse: pulse(facts, expectationOf(project), zone, now),
    paces: {
      [project.key]: {
        percentiles: percentiles(recent.map((f) => f.days)),
        expectation: expectationOf(project),
      },
    },
    ladder: ladder(columns, flowTimes(times, recent.length), recent.length),
    limitsBroken: limits.flatMap((limit) => brokenLimit(limit) ?? []),
    loads: await readLoads(db, project.id, limits, now),
    now,
  };
}

/** Everything on the Learn page for a period, an item type and a class of service. */
export async function readLearn(
  viewer: Viewer,
  projectKey: string,
  query: FlowQuery,
  now = Date.now(),
): Promise<LearnView> {
  const db = database();
  const { project, may } = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "read flow",
  });
  const hidden = await hiddenItems(db, viewer, project.id);
  const filter = { typeId: query.type, classOfService: query.class };
  const period = lastWeeks(PERIODS[query.period], project.zone, now);
  const [facts, { types, workflows }] = await Promise.all([
    readFlowFacts(db, { project, ...filter }, period),
    projectTypes(db, project.id),
  ]);
  const asked = { hidden, period, now, filter };
  const [promises, triage, unplanned, shipped, breaks] = await Promise.all([
    readKeptPromises({ project, ...asked }),
    may("read intake") ? readTriageFigures(project, period) : null,
    readUnplanned(db, project, asked),
    readShipped(db, project, { workflows, ...asked }),
    readLimitBreaks(db, { project, ...filter }, period, hidden),
  ]);
  const upper = types.filter((t) => t.level >= 1);
  return {
    project: { id: project.id, key: project.key, name: project.name, zone: project.zone },
    ...{ query, period, promises, triage, unplanned, shipped, breaks },
    report: maskReport(flowReport(facts, expectationOf(project), project.zone, now), hidden),
    states: workflows
      .filter((w) => upper.some((t) => t.workflowId === w.id))
      .flatMap((w) => w.states),
    types: upper.map(({ id, name }) => ({ id, name })),
    from: isoDate(dayNumber(period.from, project.zone)),
    to: isoDate(dayNumber(now, project.zone)),
    now,
  };
}

/** The items behind a point of the cumulative flow diagram. */
export async function readBand(
  viewer: Viewer,
  projectKey: string,
  query: FlowQuery & z.infer<typeof bandQuery>,
  now = Date.now(),
): Promise<string[]> {
  const db = database();
  const { project } = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "read flow",
  });
  const scope = { project, typeId: query.type, classOfService: query.class };
  const at = Math.min(dayStart(query.day + 1, project.zone), now + 1);
  return maskIds(
    await readInState(db, scope, query.state, at),
    await hiddenItems(db, viewer, project.id),
  );
}
