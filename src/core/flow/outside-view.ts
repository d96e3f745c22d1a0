import type { Pulse } from "./pulse";
import type { FlowReport } from "./report";

/*
 * Figures of a project are the same for everybody who may see it: they count every item. What
 * stands behind them is not: of an item outside somebody's view only that it counts is told.
 */

/** Stands where the id, key or title of an item outside somebody's view would stand. */
export const OUTSIDE_VIEW = "";

/** Ids with those outside somebody's view made unknown; as many as before. */
export const maskIds = (ids: readonly string[], hidden: ReadonlySet<string>): string[] =>
  ids.map((id) => (hidden.has(id) ? OUTSIDE_VIEW : id));

/** The pulse with its figures as they are, and nothing of items that somebody may not see. */
export function maskPulse(pulse: Pulse, hidden: ReadonlySet<string>): Pulse {
  if (hidden.size === 0) return pulse;
  const masked = (ids: readonly string[]) => maskIds(ids, hidden);
  return {
    ...pulse,
    inProgress: masked(pulse.inProgress),
    oldest: pulse.oldest && { ...pulse.oldest, itemId: masked([pulse.oldest.itemId])[0] },
    kept: { ...pulse.kept, itemIds: masked(pulse.kept.itemIds) },
    blocked: masked(pulse.blocked),
    arrivedThisWeek: masked(pulse.arrivedThisWeek),
    departedThisWeek: masked(pulse.departedThisWeek),
    recentlyFinished: masked(pulse.recentlyFinished),
  };
}

/** A flow report with its figures as they are, and neither ids, keys nor titles of hidden items. */
export function maskReport(report: FlowReport, hidden: ReadonlySet<string>): FlowReport {
  if (hidden.size === 0) return report;
  const masked = <T extends { itemId: string; key: string; title: string }>(row: T): T =>
    hidden.has(row.itemId)
      ? { ...row, itemId: OUTSIDE_VIEW, key: OUTSIDE_VIEW, title: OUTSIDE_VIEW }
      : row;
  return {
    ...report,
    finished: report.finished.map(masked),
    stopped: report.stopped.map(masked),
    again: report.again.map(masked),
    ageing: report.ageing.map(masked),
    throughput: report.throughput.map((week) => ({
      ...week,
      itemIds: maskIds(week.itemIds, hidden),
    })),
  };
}
