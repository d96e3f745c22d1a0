"use client";
import type { FlowTimes, TimeInState } from "@/core/flow/time-in-state";
import type { State } from "@/core/workflow/state";
import { shortDays } from "@/ui/kit/time";

interface Step {
  state: State;
  time: TimeInState;
}

/** The upper line, and how far below it the lower one is. */
const HIGH_PX = 48;
const FALL_PX = 30;
const LEAST_WIDTH_PX = 62;

const isHigh = ({ state }: Step) => state.kind === "working";

/**
 * The process as its own zigzag: average time high and low, state by state, in the order of the
 * process.
 */
export function TimeInStateChart({ times, states }: { times: FlowTimes; states: State[] }) {
  const byId = new Map(times.states.map((t) => [t.stateId, t]));
  const steps = states.flatMap((state) => {
    const time = byId.get(state.id);
    return time && time.average > 0 ? [{ state, time }] : [];
  });
  return (
    <>
      <div className="my-2 flex overflow-x-auto" aria-hidden="true">
        {steps.map((step, i) => (
          <Stretch key={step.state.id} step={step} before={steps[i - 1]} />
        ))}
      </div>
      <StepTable steps={steps} />
    </>
  );
}

/** A state as a stretch of the zigzag, as wide as the time that it took. */
function Stretch({ step, before }: { step: Step; before?: Step }) {
  const { state, time } = step;
  const high = isHigh(step);
  const words = (
    <span
      className={`flex flex-col px-1 text-center leading-tight ${high ? "justify-end" : "justify-start"}`}
      style={{ height: HIGH_PX - 6 }}
    >
      <span className="text-[12px] text-ink-soft">{state.name}</span>
      <b className="text-[15px]">{shortDays(time.average)}</b>
    </span>
  );
  const line = (
    <span
      className={`block h-[3px] ${high ? "bg-accent" : "bg-rest"}`}
      style={{ marginBlock: high ? `6px ${FALL_PX}px` : `${HIGH_PX + FALL_PX}px 6px` }}
    />
  );
  return (
    <div
      className="relative"
      style={{ flex: `${time.average} 0 ${LEAST_WIDTH_PX}px` }}
      title={`${state.name}: ${shortDays(time.average)} on average, ${shortDays(time.blocked)} of it blocked`}
    >
      {before && isHigh(before) !== high && (
        <span
          className="absolute left-0 w-[3px] bg-accent"
          style={{ top: HIGH_PX, height: FALL_PX + 3 }}
        />
      )}
      {high && words}
      {line}
      {!high && words}
    </div>
  );
}

function StepTable({ steps }: { steps: Step[] }) {
  return (
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
  );
}
