"use client";
import {
  Bar,
  BarChart,
  CartesianGrid,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";
import { LEAST_SPRINTS, velocityRange } from "@/core/plan/sprint-ledger";
import type { PastSprint, SprintView } from "@/core/plan/sprint-view";
import { AXIS, CHART_SIZE, GRID } from "@/ui/flow/chart-style";

/** The velocity of the sprints before, in words. */
export function velocityWords({ past }: SprintView): string {
  const range = velocityRange(past.map(({ velocity }) => velocity));
  if (!range)
    return `points finished by sprint; of ${LEAST_SPRINTS} at least that have ended, it is said what to expect`;
  const mean = Math.round(range.mean * 10) / 10;
  return `${mean} points in the mean of the last ${range.of}, from ${range.least} to ${range.most}`;
}

/** What was committed to, and finished, in the sprints before and in this one. */
export function VelocityChart({ view }: { view: SprintView }) {
  const { past, outcome, sprint } = view;
  const own: PastSprint[] = outcome
    ? [
        {
          id: sprint.id,
          name: sprint.name,
          committed: outcome.committed.points,
          velocity: outcome.velocity,
        },
      ]
    : [];
  const range = velocityRange(past.map(({ velocity }) => velocity));
  return (
    <ResponsiveContainer {...CHART_SIZE}>
      <BarChart data={[...past, ...own]} margin={{ top: 8, right: 12, bottom: 0, left: -22 }}>
        <CartesianGrid {...GRID} />
        <XAxis
          dataKey="name"
          tickFormatter={(name: string) => name.replace("Sprint ", "S ")}
          {...AXIS}
        />
        <YAxis {...AXIS} />
        <Tooltip
          isAnimationActive={false}
          cursor={{ fill: "var(--well)" }}
          content={({ active, payload }) => {
            const row = active ? (payload?.[0]?.payload as PastSprint | undefined) : undefined;
            return row ? (
              <div className="popover !p-2 text-[12.5px]">
                {row.name}: <b>{row.velocity}</b> finished of {row.committed} committed
              </div>
            ) : null;
          }}
        />
        {range && <ReferenceLine y={range.mean} stroke="var(--ink-soft)" strokeDasharray="4 3" />}
        <Bar
          dataKey="committed"
          name="committed"
          fill="var(--rest-soft)"
          isAnimationActive={false}
        />
        <Bar dataKey="velocity" name="finished" fill="var(--accent)" isAnimationActive={false} />
      </BarChart>
    </ResponsiveContainer>
  );
}
