import type { Instant } from "@/core/calendar/instant";
import { dayNumber, weekStart } from "@/core/calendar/zone";
import { quantile } from "@/core/flow/quantile";
import { REPORT_WAYS, type ReportWay } from "./report";
import type { VerdictKind } from "./verdict";

/** The kinds of verdicts, in the order in which the desk offers them. */
export const VERDICT_KINDS = ["accept", "merge", "ask", "park", "decline"] as const;

/** What is known of the reports of a period. */
export interface TriageFacts {
  /** Reports that came in. */
  came: readonly { way: ReportWay; at: Instant }[];
  /** The verdicts that stand on reports, as far as they were given in the period. */
  judged: readonly { kind: VerdictKind; at: Instant }[];
  /** From a report's receipt to its first verdict, where that was given in the period; milliseconds. */
  took: readonly number[];
}

/** Triage in an ISO week. */
export interface TriageWeek {
  /** Number of its Monday. */
  week: number;
  came: number;
  byKind: Record<VerdictKind, number>;
}

/** How triage went in a period. */
export interface TriageFigures {
  weeks: TriageWeek[];
  came: number;
  byWay: Record<ReportWay, number>;
  judged: number;
  byKind: Record<VerdictKind, number>;
  /** Time to the first verdict, by the clock, in milliseconds; null where none was given. */
  median: number | null;
  /** Within so long 85 of 100 had their first verdict. */
  p85: number | null;
}

const none = <K extends string>(kinds: readonly K[]) =>
  Object.fromEntries(kinds.map((k) => [k, 0])) as Record<K, number>;

/**
 * How triage went, week by week.
 * @param period half-open; its weeks are all there, also those in which nothing happened
 */
export function triageFigures(
  { came, judged, took }: TriageFacts,
  period: { from: Instant; to: Instant },
  zone: string,
): TriageFigures {
  const weekOf = (at: Instant) => weekStart(dayNumber(at, zone));
  const weeks: TriageWeek[] = [];
  for (let week = weekOf(period.from); week <= weekOf(period.to - 1); week += 7)
    weeks.push({ week, came: 0, byKind: none(VERDICT_KINDS) });
  const at = (instant: Instant) => weeks.find((w) => w.week === weekOf(instant));
  const byWay = none(REPORT_WAYS);
  const byKind = none(VERDICT_KINDS);
  for (const report of came) {
    byWay[report.way] += 1;
    const week = at(report.at);
    if (week) week.came += 1;
  }
  for (const verdict of judged) {
    byKind[verdict.kind] += 1;
    const week = at(verdict.at);
    if (week) week.byKind[verdict.kind] += 1;
  }
  const sorted = took.toSorted((a, b) => a - b);
  return {
    weeks,
    came: came.length,
    byWay,
    judged: judged.length,
    byKind,
    median: quantile(sorted, 0.5),
    p85: quantile(sorted, 0.85),
  };
}
