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
/** Whether the line is high where the state is left. */
const endsHigh = (step: Step) => isHigh(step) && step.time.ready === 0;

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
      style={{
        marginBlock: high ? `6px ${FALL_PX}px` : `${HIGH_PX + FALL_PX}px 6px`,
        marginInlineEnd: high ? share(time) : 0,
      }}
    />
  );
  return (
    <div
      className="relative"
      style={{ flex: `${time.average} 0 ${LEAST_WIDTH_PX}px` }}
      title={`${state.name}: ${shortDays(time.average)} on average, ${shortDays(time.blocked)} of it blocked, ${shortDays(time.ready)} of it ready for the next step`}
    >
      {high && time.ready > 0 && <Ready time={time} />}
      {before && endsHigh(before) !== high && (
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

/** The part of a state's time in which items were ready for their next step. */
const share = ({ ready, average }: TimeInState) => `${(ready / average) * 100}%`;

/** Ready for the next step, the line is low before the state is left. */
function Ready({ time }: { time: TimeInState }) {
  return (
    <span
      className="absolute right-0 block border-b-[3px] border-l-[3px] border-b-rest border-l-accent"
      style={{ top: HIGH_PX, height: FALL_PX + 6, width: share(time) }}
    />
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
          <th className="text-right font-normal">of it ready</th>
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
            <td className="text-right text-ink-soft">
              {time.ready > 0 ? shortDays(time.ready) : "–"}
            </td>
            <td className="text-right text-ink-soft">{time.items}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
