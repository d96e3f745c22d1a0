import { z } from "zod";
import { ladder } from "@/core/board/column";
import { limitState } from "@/core/board/limit";
import { WEEK, type Instant } from "@/core/calendar/instant";
import { dayNumber, dayStart, isoDate } from "@/core/calendar/zone";
import { inStateAt } from "@/core/flow/cumulative-flow";
import type { FlowHistory } from "@/core/flow/history";
import { finishedIn } from "@/core/flow/measures";
import { pulse, PULSE_WINDOW_WEEKS, type Pulse } from "@/core/flow/pulse";
import { flowReport, percentiles, type FlowReport, type Percentiles } from "@/core/flow/report";
import { CLASSES_OF_SERVICE } from "@/core/item/fields";
import type { State } from "@/core/workflow/workflow";
import { database } from "@/db/connection";
import { readUnplanned, type UnplannedView } from "./unplanned";
import { lastOutboxId, loadBoard } from "../board/read";
import { keptPromises, type KeptPromises } from "../intake/promises";
import { enterProject, hiddenItems, type ProjectAccess, type ProjectRow } from "../people/access";
import type { Viewer } from "../people/viewer";
import { projectTypes } from "../workflow/load";
import { loadHistories } from "./histories";

export const PERIODS = { "4 weeks": 4, "12 weeks": 12, "26 weeks": 26, "39 weeks": 39 } as const;

export const flowQuery = z.object({
  period: z.enum(["4 weeks", "12 weeks", "26 weeks", "39 weeks"]).catch("12 weeks"),
  type: z.string().max(64).optional(),
  class: z.enum(CLASSES_OF_SERVICE).optional(),
});
export type FlowQuery = z.infer<typeof flowQuery>;

/** The pulse strip's figures, and what the board draws from finished items: percentiles and the ladder. */
export interface FlowSummary {
  pulse: Pulse;
  percentiles: Percentiles;
  ladder: Record<string, number | null>;
  limitsBroken: string[];
  now: Instant;
}

const expectationOf = (project: ProjectRow) => ({ days: project.expectationDays, share: project.expectationShare });

const without = (histories: readonly FlowHistory[], hidden: ReadonlySet<string>): FlowHistory[] => (hidden.size === 0 ? (histories as FlowHistory[]) : histories.filter((h) => !hidden.has(h.id)));

/** The summary of a project that the caller has entered for "read flow". */
export async function flowSummary({ project }: ProjectAccess, viewer: Viewer, now = Date.now()): Promise<FlowSummary> {
  const lastEvent = await lastOutboxId(database(), project.id);
  const hidden = await hiddenItems(database(), viewer, project.id);
  const shown = `${project.id} ${[...hidden].sort().join()}`;
  const known = summaries.get(shown);
  if (known && known.lastEvent === lastEvent && Math.abs(now - known.at) < SUMMARY_KEPT_MS) return known.summary;
  const summary = summarise(project, hidden, now);
  summaries.set(shown, { lastEvent, at: now, summary });
  summary.catch(() => summaries.delete(shown));
  return summary;
}

/**
 * Every open page asks for the same summary after each change; it is computed once for all of them. It is made anew when
 * something happened, and after a few seconds all the same, because outbox numbers may become visible out of order.
 */
const summaries = new Map<string, { lastEvent: number; at: number; summary: Promise<FlowSummary> }>();
const SUMMARY_KEPT_MS = 5_000;

async function summarise(project: ProjectRow, hidden: ReadonlySet<string>, now: Instant): Promise<FlowSummary> {
  const db = database();
  const [all, { columns }] = await Promise.all([loadHistories(db, project.id), loadBoard(db, project.id)]);
  const histories = without(all, hidden);
  const recent = finishedIn(histories, { from: now - PULSE_WINDOW_WEEKS * WEEK, to: now + 1 }, project.zone);
  const here = new Map<string, number>();
  for (const { stays } of histories) {
    const last = stays.at(-1);
    if (last && last.to === null) here.set(last.stateId, (here.get(last.stateId) ?? 0) + 1);
  }
  const broken = columns.filter((column) => {
    const { kind } = limitState(column.stateIds.reduce((sum, id) => sum + (here.get(id) ?? 0), 0), column);
    return kind === "over" || kind === "under";
  });
  return {
    pulse: pulse(histories, expectationOf(project), project.zone, now),
    percentiles: percentiles(recent.map((f) => f.days)),
    ladder: ladder(columns, recent.map((f) => f.history)),
    limitsBroken: broken.map((c) => c.id),
    now,
  };
}

export interface LearnView {
  project: { id: string; key: string; name: string; zone: string };
  query: FlowQuery;
  report: FlowReport;
  unplanned: UnplannedView;
  promises: KeptPromises;
  states: State[];
  types: { id: string; name: string }[];
  from: string;
  to: string;
  now: Instant;
}

/** Everything on the Learn page for a period, an item type and a class of service. */
export async function readLearn(viewer: Viewer, projectKey: string, query: FlowQuery, now = Date.now()): Promise<LearnView> {
  const db = database();
  const { project } = await enterProject(db, viewer, { key: projectKey }, "read flow");
  const hidden = await hiddenItems(db, viewer, project.id);
  const [all, { types, workflows }] = await Promise.all([
    loadHistories(db, project.id, { typeId: query.type, classOfService: query.class }),
    projectTypes(db, project.id),
  ]);
  const histories = without(all, hidden);
  const today = dayNumber(now, project.zone);
  const firstDay = today - PERIODS[query.period] * 7 + 1;
  const period = { from: dayStart(firstDay, project.zone), to: now + 1 };
  const upper = types.filter((t) => t.level >= 1);
  return {
    project: { id: project.id, key: project.key, name: project.name, zone: project.zone },
    query,
    promises: await keptPromises(viewer, project, period, now),
    unplanned: await readUnplanned(db, project, hidden, period, now),
    report: flowReport(histories, period, expectationOf(project), project.zone, now),
    states: workflows.filter((w) => upper.some((t) => t.workflowId === w.id)).flatMap((w) => w.states),
    types: upper.map(({ id, name }) => ({ id, name })),
    from: isoDate(firstDay),
    to: isoDate(today),
    now,
  };
}

export const bandQuery = z.object({ state: z.string().max(64), day: z.coerce.number().int() });

/** The items behind a point of the cumulative flow diagram. */
export async function readBand(viewer: Viewer, projectKey: string, query: FlowQuery, band: z.infer<typeof bandQuery>, now = Date.now()): Promise<string[]> {
  const db = database();
  const { project } = await enterProject(db, viewer, { key: projectKey }, "read flow");
  const histories = without(await loadHistories(db, project.id, { typeId: query.type, classOfService: query.class }), await hiddenItems(db, viewer, project.id));
  return inStateAt(histories, band.state, Math.min(dayStart(band.day + 1, project.zone), now + 1)).map((h) => h.id);
}

