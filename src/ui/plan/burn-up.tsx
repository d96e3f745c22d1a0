"use client";
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";
import { addDays, type Day } from "@/core/calendar/month";
import { isoDate, parseIsoDate } from "@/core/calendar/zone";
import type { Until } from "@/core/plan/reach-view";
import type { BurnUpDayView } from "@/core/plan/release-view";
import type { SizeUnit, SprintUnit } from "@/core/plan/sprint-ledger";
import { AXIS, CHART_SIZE, GRID } from "@/ui/flow/chart-style";
import { shortDate } from "@/ui/kit/time";

interface Row {
  at: number;
  day: Day;
  scope: number | null;
  done: number | null;
  /** From what is done today to all of it, on the day by which that is 85 % sure. */
  sure: number | null;
}

/** How something got on: its days, when it is due, and when it will probably be finished. */
export interface BurnUpOf<U extends SprintUnit = SizeUnit> {
  days: readonly (Pick<BurnUpDayView, "day"> & Record<"scope" | "done", Record<U, number>>)[];
  dueOn: Day | null;
  until: Until | null;
}

function rowsOf<U extends SprintUnit>({ days, until }: BurnUpOf<U>, unit: U): Row[] {
  const rows = days.map(({ day, scope, done }): Row => ({
    at: parseIsoDate(day),
    day,
    scope: scope[unit],
    done: done[unit],
    sure: null,
  }));
  const last = rows.at(-1);
  if (!last || until?.sure == null || last.done === last.scope) return rows;
  const day = addDays(last.day, until.sure);
  return [
    ...rows.slice(0, -1),
    { ...last, sure: last.done },
    { at: parseIsoDate(day), day, scope: null, done: null, sure: last.scope },
  ];
}

/** All that is in something at the end of each day, and how much of it is finished. */
export function BurnUp<U extends SprintUnit>({ of, unit }: { of: BurnUpOf<U>; unit: U }) {
  const rows = rowsOf(of, unit);
  const { dueOn } = of;
  const due = dueOn === null ? null : parseIsoDate(dueOn);
  const [first, last] = [rows[0].at, Math.max(rows.at(-1)!.at, due ?? 0)];
  return (
    <ResponsiveContainer {...CHART_SIZE}>
      <LineChart data={rows} margin={{ top: 8, right: 16, bottom: 0, left: -22 }}>
        <CartesianGrid {...GRID} />
        <XAxis
          dataKey="at"
          type="number"
          domain={[first, last + 1]}
          tickCount={7}
          tickFormatter={(at: number) => shortDate(isoDate(at))}
          {...AXIS}
        />
        <YAxis {...AXIS} />
        <Tooltip
          isAnimationActive={false}
          content={({ active, payload }) => {
            const row = active ? (payload?.[0]?.payload as Row | undefined) : undefined;
            return row ? (
              <div className="popover !p-2 text-[12.5px]">
                {shortDate(row.day)}:{" "}
                {row.done === null ? (
                  "all of it, 85 % sure"
                ) : (
                  <>
                    <b>{row.done}</b> of {row.scope} {unit}
                  </>
                )}
              </div>
            ) : null;
          }}
        />
        {due !== null && <ReferenceLine x={due} stroke="var(--alarm)" strokeWidth={2} />}
        <Line
          dataKey="scope"
          type="stepAfter"
          stroke="var(--rest)"
          strokeWidth={1.5}
          dot={false}
          isAnimationActive={false}
        />
        <Line
          dataKey="done"
          stroke="var(--accent)"
          strokeWidth={2.5}
          dot={false}
          isAnimationActive={false}
        />
        <Line
          dataKey="sure"
          stroke="var(--accent)"
          strokeDasharray="5 4"
          connectNulls
          dot={false}
          isAnimationActive={false}
        />
      </LineChart>
    </ResponsiveContainer>
  );
}
