"use client";
import {
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceArea,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";
import type { SprintUnit } from "@/core/plan/sprint-ledger";
import type { SprintView } from "@/core/plan/sprint-view";
import { AXIS, CHART_SIZE, GRID } from "@/ui/flow/chart-style";
import { shortDate } from "@/ui/kit/time";

interface Row {
  at: number;
  name: string;
  left: number | null;
  scope: number | null;
  even: number;
  works: boolean;
}

/** What is left at the end of each day, all that is in it, and an even fall over its working days. */
export function BurnChart({ view, unit }: { view: SprintView; unit: SprintUnit }) {
  const begins = view.begins![unit];
  const rows: Row[] = [
    { at: 0, name: "start", left: begins, scope: null, even: begins, works: true },
    ...view.days.map(({ day, left, scope, even, works }, i) => ({
      at: i + 1,
      name: shortDate(day),
      left: left?.[unit] ?? null,
      scope: scope?.[unit] ?? null,
      even: even[unit],
      works,
    })),
  ];
  return (
    <ResponsiveContainer {...CHART_SIZE}>
      <ComposedChart data={rows} margin={{ top: 8, right: 12, bottom: 0, left: -22 }}>
        {rows
          .filter(({ works }) => !works)
          .map(({ at }) => (
            <ReferenceArea key={at} x1={at - 1} x2={at} fill="var(--well)" strokeOpacity={0} />
          ))}
        <CartesianGrid {...GRID} />
        <XAxis
          dataKey="at"
          type="number"
          domain={[0, rows.length - 1]}
          tickCount={Math.min(rows.length, 8)}
          tickFormatter={(at: number) => rows[at]?.name ?? ""}
          {...AXIS}
        />
        <YAxis {...AXIS} />
        <Tooltip
          isAnimationActive={false}
          content={({ active, payload }) => {
            const row = active ? (payload?.[0]?.payload as Row | undefined) : undefined;
            return row ? (
              <div className="popover !p-2 text-[12.5px]">
                {row.name}: {row.left === null ? "to come" : <b>{row.left} left</b>}
                {row.scope !== null && ` of ${row.scope}`}, evenly {Math.round(row.even * 10) / 10}
              </div>
            ) : null;
          }}
        />
        <Line
          dataKey="even"
          name="an even fall"
          stroke="var(--ink-soft)"
          strokeDasharray="5 4"
          dot={false}
          isAnimationActive={false}
        />
        <Line
          dataKey="scope"
          name="all that is in it"
          type="stepAfter"
          stroke="var(--rest)"
          strokeWidth={1.5}
          dot={false}
          isAnimationActive={false}
        />
        <Line
          dataKey="left"
          name="what is left"
          stroke="var(--accent)"
          strokeWidth={2.5}
          dot={{ r: 3, fill: "var(--accent)" }}
          isAnimationActive={false}
        />
      </ComposedChart>
    </ResponsiveContainer>
  );
}
