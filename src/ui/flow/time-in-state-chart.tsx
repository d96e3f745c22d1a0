"use client";
import type { FlowTimes } from "@/core/flow/time-in-state";
import type { State } from "@/core/workflow/state";
import { shortDays } from "@/ui/kit/time";

const HEIGHT = 96;
const HIGH = 30;
const LOW = 66;
const WIDTH = 560;

/**
 * The process as its own zigzag: average time high and low, state by state, in the order of the
 * process.
 */
export function TimeInStateChart({ times, states }: { times: FlowTimes; states: State[] }) {
  const byId = new Map(times.states.map((t) => [t.stateId, t]));
  const steps = states.flatMap((s) => {
    const time = byId.get(s.id);
    return time && time.average > 0 ? [{ state: s, time }] : [];
  });
  const total = steps.reduce((sum, s) => sum + s.time.average, 0);
  const least = 26;
  const spare = Math.max(0, WIDTH - steps.length * least);
  const widths = steps.map((s) => least + (s.time.average / total) * spare);
  return (
    <div>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        width="100%"
        role="img"
        aria-label={steps.map((s) => `${s.state.name} ${shortDays(s.time.average)}`).join(", ")}
      >
        <line x1="0" x2={WIDTH} y1={HIGH} y2={HIGH} stroke="var(--line)" />
        <line x1="0" x2={WIDTH} y1={LOW} y2={LOW} stroke="var(--line)" />
        {steps.map(({ state, time }, i) => {
          const from = widths.slice(0, i).reduce((sum, w) => sum + w, 0);
          const x = from + widths[i];
          const y = state.kind === "working" ? HIGH : LOW;
          const before = i > 0 ? (steps[i - 1].state.kind === "working" ? HIGH : LOW) : y;
          const middle = (from + x) / 2;
          return (
            <g key={state.id}>
              {before !== y && (
                <line
                  x1={from}
                  x2={from}
                  y1={before}
                  y2={y}
                  stroke="var(--accent)"
                  strokeWidth="2"
                />
              )}
              <line
                x1={from}
                x2={x}
                y1={y}
                y2={y}
                stroke={state.kind === "working" ? "var(--accent)" : "var(--rest)"}
                strokeWidth="3"
              />
              <text
                x={middle}
                y={state.kind === "working" ? y - 8 : y + 16}
                textAnchor="middle"
                fontSize="12"
                fontWeight="600"
                fill="var(--ink)"
              >
                {time.average.toFixed(1)}
              </text>
              <title>{`${state.name}: ${shortDays(time.average)} on average, ${shortDays(time.blocked)} of it blocked`}</title>
            </g>
          );
        })}
      </svg>
      <table className="mt-1 w-full text-[12.5px]">
        <thead className="text-left text-ink-soft">
          <tr>
            <th className="font-normal">State</th>
            <th className="text-right font-normal">average</th>
            <th className="text-right font-normal">of it blocked</th>
            <th className="text-right font-normal">items</th>
          </tr>
        </thead>
        <tbody>
          {steps.map(({ state, time }) => (
            <tr key={state.id} className="border-t border-line">
              <td>
                {state.name}{" "}
                <span className="text-ink-soft">{state.kind === "working" ? "high" : "low"}</span>
              </td>
              <td className="text-right font-semibold">{shortDays(time.average)}</td>
              <td className={`text-right ${time.blocked > 0.05 ? "text-alarm" : "text-ink-soft"}`}>
                {time.blocked > 0 ? shortDays(time.blocked) : "–"}
              </td>
              <td className="text-right text-ink-soft">{time.items}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
