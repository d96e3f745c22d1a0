"use client";
import { counted } from "@/core/formats/counted";
import {
  CartesianGrid,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";
import { dayNumber } from "@/core/calendar/zone";
import { OUTSIDE_VIEW } from "@/core/flow/outside-view";
import type { FlowReport } from "@/core/flow/report";
import { AXIS, CHART_SIZE, dayWords, GRID } from "./chart-style";

type Point = FlowReport["finished"][number];

/**
 * Cycle times of finished items; lines at the percentiles and the expectation. A dot opens its
 * item.
 */
export function CycleTimeChart({
  report,
  zone,
  onItem,
}: {
  report: FlowReport;
  zone: string;
  onItem: (key: string) => void;
}) {
  const { percentiles, expectation } = report;
  const line = (y: number | null, label: string, strong = false) =>
    y === null ? null : (
      <ReferenceLine
        key={label}
        y={y}
        stroke={strong ? "var(--signal-ink)" : "var(--ink-soft)"}
        strokeDasharray={strong ? undefined : "4 3"}
        strokeWidth={strong ? 1.5 : 1}
        label={{
          value: label,
          position: "right",
          fontSize: 11,
          fill: strong ? "var(--signal-ink)" : "var(--ink-soft)",
        }}
      />
    );
  return (
    <ResponsiveContainer {...CHART_SIZE}>
      <ScatterChart margin={{ top: 8, right: 84, bottom: 0, left: -22 }}>
        <CartesianGrid {...GRID} />
        <XAxis
          dataKey="at"
          type="number"
          domain={[report.period.from, report.period.to]}
          tickFormatter={(at: number) => dayWords(dayNumber(at, zone))}
          {...AXIS}
        />
        <YAxis dataKey="days" type="number" {...AXIS} allowDecimals={false} />
        <Tooltip content={<PointTooltip />} isAnimationActive={false} cursor={false} />
        <Scatter
          data={report.finished}
          isAnimationActive={false}
          shape={(props: unknown) => {
            const { cx, cy, payload } = props as { cx: number; cy: number; payload: Point };
            const open = () => payload.itemId !== OUTSIDE_VIEW && onItem(payload.key);
            const late = payload.days > expectation.days;
            return late ? (
              <rect
                x={cx - 3}
                y={cy - 3}
                width={6}
                height={6}
                fill="none"
                stroke="var(--alarm)"
                strokeWidth={1.5}
                cursor="pointer"
                transform={`rotate(45 ${cx} ${cy})`}
                onClick={open}
              />
            ) : (
              <circle
                cx={cx}
                cy={cy}
                r={3}
                fill="var(--accent)"
                fillOpacity={0.65}
                cursor="pointer"
                onClick={open}
              />
            );
          }}
        />
        {line(percentiles.p50, `50 % ${percentiles.p50} d`)}
        {line(percentiles.p85, `85 % ${percentiles.p85} d`)}
        {line(percentiles.p95, `95 % ${percentiles.p95} d`)}
        {line(expectation.days, `expected ${expectation.days} d`, true)}
      </ScatterChart>
    </ResponsiveContainer>
  );
}

function PointTooltip({
  active,
  payload,
}: {
  active?: boolean;
  payload?: readonly { payload: Point }[];
}) {
  const point = active ? payload?.[0]?.payload : undefined;
  if (!point) return null;
  return (
    <div className="popover max-w-64 !p-2 text-[12.5px]">
      {point.itemId === OUTSIDE_VIEW ? (
        "An item that you may not see"
      ) : (
        <b className="font-mono">{point.key}</b>
      )}{" "}
      took {counted(point.days, "day")}
      <p>{point.title}</p>
      <p className="text-ink-soft">exactly {point.elapsed.toFixed(1)} days in progress</p>
    </div>
  );
}
