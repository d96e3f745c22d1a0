"use client";
import Link from "next/link";
import type { ReactNode } from "react";
import { Bar, BarChart, CartesianGrid, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { isoWeek } from "@/core/calendar/zone";
import type { LearnView } from "@/core/flow/learn-view";
import { counted } from "@/core/formats/counted";
import { REPORT_WAYS, WAY_WORDS } from "@/core/intake/report";
import { VERDICT_KINDS, type TriageFigures, type TriageWeek } from "@/core/intake/triage-figures";
import { VERDICT_PAST, type VerdictKind } from "@/core/intake/verdict";
import { span } from "@/ui/kit/time";
import { ChartFrame, Nothing } from "./chart-frame";
import { AXIS, BAND_COLOURS, CHART_SIZE, dayWords, GRID } from "./chart-style";

/** How triage went: what came in, which way, what became of it, and how long people waited for it. */
export function TriageSection({
  view: { project, period, triage },
}: {
  view: LearnView & { triage: TriageFigures };
}) {
  const addressOf = (kind: VerdictKind) =>
    `/p/${project.key}/intake?judged=${kind}&since=${period.from}&until=${period.to}`;
  const { came, judged, median, p85, byWay } = triage;
  const ways = REPORT_WAYS.filter((way) => byWay[way] > 0);
  return (
    <ChartFrame
      wide
      title="Triage"
      says="Reports of all types by ISO week: what came in beside what was judged, by the verdict that stands. Of the whole project, not of the type chosen above."
    >
      {came + judged === 0 ? (
        <Nothing>No report came in or was judged in this period.</Nothing>
      ) : (
        <div className="grid h-full gap-4 lg:grid-cols-[minmax(0,1fr)_300px]">
          <div className="min-h-[240px]">
            <Weeks weeks={triage.weeks} />
          </div>
          <dl className="flex flex-col gap-1.5 text-[13px]">
            <Row name="half had a verdict within" figure={median === null ? "–" : span(median)} />
            <Row name="85 of 100 within" figure={p85 === null ? "–" : span(p85)} />
            <Row name="came in" figure={String(came)}>
              {ways.map((way) => `${byWay[way]} ${WAY_WORDS[way]}`).join(", ")}
            </Row>
            <Row name="have a verdict of this time" figure={String(judged)} />
            {VERDICT_KINDS.map((kind, i) => (
              <div key={kind} className="flex items-center gap-2">
                <dt className="flex flex-1 items-center gap-2">
                  <span
                    aria-hidden="true"
                    className="size-3"
                    style={{ background: BAND_COLOURS[i] }}
                  />
                  {VERDICT_PAST[kind]}
                </dt>
                <dd>
                  <Link
                    prefetch={false}
                    className="link font-display tabular-nums"
                    aria-label={`${counted(triage.byKind[kind], "report")} ${VERDICT_PAST[kind]}, show them`}
                    href={addressOf(kind)}
                  >
                    {triage.byKind[kind]}
                  </Link>
                </dd>
              </div>
            ))}
          </dl>
        </div>
      )}
    </ChartFrame>
  );
}

function Row({ name, figure, children }: { name: string; figure: string; children?: ReactNode }) {
  return (
    <div className="grid grid-cols-[1fr_auto] items-baseline gap-x-2">
      <dt className="text-ink-soft">{name}</dt>
      <dd className="font-display text-[15px] font-semibold tabular-nums">{figure}</dd>
      {children && <dd className="col-span-full text-[12.5px] text-ink-soft">{children}</dd>}
    </div>
  );
}

/** A hollow bar a week for what came in, and beside it one of what was judged, in parts. */
function Weeks({ weeks }: { weeks: readonly TriageWeek[] }) {
  const rows = weeks.map(({ week, came, byKind }) => ({ week, came, ...byKind }));
  return (
    <ResponsiveContainer {...CHART_SIZE}>
      <BarChart data={rows} margin={{ top: 8, right: 8, bottom: 0, left: -22 }} barGap={1}>
        <CartesianGrid {...GRID} />
        <XAxis
          dataKey="week"
          tickFormatter={(week: number) => `W${isoWeek(week).week}`}
          {...AXIS}
        />
        <YAxis allowDecimals={false} {...AXIS} />
        <Tooltip
          isAnimationActive={false}
          cursor={{ fill: "var(--well)" }}
          content={({ active, payload }) => {
            const row = active
              ? (payload?.[0]?.payload as (typeof rows)[number] | undefined)
              : undefined;
            return row ? (
              <div className="popover !p-2 text-[12.5px]">
                Week of {dayWords(row.week)}: <b>{row.came}</b> came in
                {VERDICT_KINDS.filter((kind) => row[kind] > 0).map(
                  (kind) => `, ${row[kind]} ${VERDICT_PAST[kind]}`,
                )}
              </div>
            ) : null;
          }}
        />
        <Bar dataKey="came" fill="transparent" stroke="var(--ink-soft)" isAnimationActive={false} />
        {VERDICT_KINDS.map((kind, i) => (
          <Bar
            key={kind}
            dataKey={kind}
            stackId="judged"
            fill={BAND_COLOURS[i]}
            isAnimationActive={false}
          />
        ))}
      </BarChart>
    </ResponsiveContainer>
  );
}
