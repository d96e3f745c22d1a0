"use client";
import {
  Bar,
  BarChart,
  CartesianGrid,
  Cell,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";
import { isoWeek } from "@/core/calendar/zone";
import type { WeekOfThroughput } from "@/core/flow/throughput";
import { AXIS, CHART_SIZE, dayWords, GRID } from "./chart-style";

/** Finished items per week; weeks that the period cuts are hollow. A bar opens its items. */
export function ThroughputChart({
  weeks,
  onWeek,
}: {
  weeks: WeekOfThroughput[];
  onWeek: (week: WeekOfThroughput) => void;
}) {
  const rows = weeks.map((w) => ({ ...w, count: w.itemIds.length }));
  const whole = rows.filter((r) => r.whole);
  const mean = whole.length > 0 ? whole.reduce((sum, r) => sum + r.count, 0) / whole.length : null;
  return (
    <ResponsiveContainer {...CHART_SIZE}>
      <BarChart data={rows} margin={{ top: 8, right: 64, bottom: 0, left: -22 }}>
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
                Week of {dayWords(row.week)}: <b>{row.count}</b> finished
                {row.whole ? "" : ", week not whole"}
              </div>
            ) : null;
          }}
        />
        {mean !== null && (
          <ReferenceLine
            y={mean}
            stroke="var(--ink-soft)"
            strokeDasharray="4 3"
            label={{
              value: `mean ${mean.toFixed(1)}`,
              position: "right",
              fontSize: 11,
              fill: "var(--ink-soft)",
            }}
          />
        )}
        <Bar
          dataKey="count"
          isAnimationActive={false}
          cursor="pointer"
          onClick={(_bar: unknown, i: number) => onWeek(rows[i])}
        >
          {rows.map((r) => (
            <Cell
              key={r.week}
              fill={r.whole ? "var(--done)" : "transparent"}
              stroke="var(--done)"
            />
          ))}
        </Bar>
      </BarChart>
    </ResponsiveContainer>
  );
}
