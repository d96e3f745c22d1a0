"use client";
import {
  Area,
  AreaChart,
  CartesianGrid,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";
import type { FlowReport } from "@/core/flow/report";
import type { State } from "@/core/workflow/state";
import { AXIS, CHART_SIZE, BAND_COLOURS, dayWords, GRID } from "./chart-style";

/**
 * The cumulative flow diagram. Bands of waiting states are hatched; a click opens the items of a
 * band on a day.
 */
export function CumulativeChart({
  report,
  states,
  onBand,
}: {
  report: FlowReport;
  states: State[];
  onBand: (state: State, day: number) => void;
}) {
  const { days, counts } = report.cumulative;
  const inProgress = states.filter(
    (s) => s.kind !== "unstarted" && counts[s.id]?.some((n) => n > 0),
  );
  // Finished items are counted from the start of the period, so that the flow and not the past
  // fills the picture.
  const bands = [...inProgress]
    .filter((s) => s.kind !== "finished" || counts[s.id]!.at(-1)! > counts[s.id]![0])
    .reverse();
  const rows = days.map((day, i) =>
    Object.fromEntries([
      ["day", day],
      ...bands.map((s) => [
        s.id,
        s.kind === "finished" ? counts[s.id]![i] - counts[s.id]![0] : counts[s.id]![i],
      ]),
    ]),
  );
  return (
    <ResponsiveContainer {...CHART_SIZE}>
      <AreaChart data={rows} margin={{ top: 6, right: 8, bottom: 0, left: -18 }}>
        <defs>
          {bands.map((s, i) => (
            <pattern
              key={s.id}
              id={`band-${s.id}`}
              width="6"
              height="6"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <rect
                width="6"
                height="6"
                fill={BAND_COLOURS[i % BAND_COLOURS.length]}
                fillOpacity={s.kind === "waiting" ? 0.35 : 0.85}
              />
              {s.kind === "waiting" && (
                <rect
                  width="2"
                  height="6"
                  fill={BAND_COLOURS[i % BAND_COLOURS.length]}
                  fillOpacity="0.75"
                />
              )}
            </pattern>
          ))}
        </defs>
        <CartesianGrid {...GRID} />
        <XAxis
          dataKey="day"
          type="number"
          domain={["dataMin", "dataMax"]}
          tickFormatter={dayWords}
          {...AXIS}
        />
        <YAxis {...AXIS} allowDecimals={false} />
        <Tooltip content={<BandTooltip bands={bands} />} isAnimationActive={false} />
        {bands.map((s, i) => (
          <Area
            key={s.id}
            dataKey={s.id}
            name={s.name}
            stackId="all"
            type="linear"
            stroke={BAND_COLOURS[i % BAND_COLOURS.length]}
            strokeWidth={1}
            fill={`url(#band-${s.id})`}
            fillOpacity={1}
            isAnimationActive={false}
            activeDot={{
              r: 4,
              cursor: "pointer",
              onClick: (_event: unknown, dot: unknown) => {
                const day = (dot as { payload?: { day?: number } }).payload?.day;
                if (day !== undefined) onBand(s, day);
              },
            }}
          />
        ))}
      </AreaChart>
    </ResponsiveContainer>
  );
}

function BandTooltip({
  active,
  label,
  payload,
  bands,
}: {
  active?: boolean;
  label?: number;
  payload?: readonly { dataKey?: unknown; value?: unknown }[];
  bands: State[];
}) {
  if (!active || !payload || label === undefined) return null;
  const value = new Map(payload.map((p) => [String(p.dataKey), Number(p.value)]));
  return (
    <div className="popover !p-2 text-[12.5px]">
      <b>{dayWords(Number(label))}</b>
      {[...bands].reverse().map((s) => (
        <p key={s.id} className="flex justify-between gap-4">
          <span>{s.kind === "finished" ? `${s.name} since the start` : s.name}</span>{" "}
          <b>{value.get(s.id)}</b>
        </p>
      ))}
    </div>
  );
}
