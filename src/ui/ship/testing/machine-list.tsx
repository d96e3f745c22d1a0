import type { MachineFound } from "@/core/ship/testing/testing-view";
import { counted } from "@/core/formats/counted";
import { ago } from "@/ui/kit/time";

/** Tests of machines that no case stands for; those that change their mind come first. */
export function MachineList({ machines, now }: { machines: readonly MachineFound[]; now: number }) {
  if (machines.length === 0) return null;
  const unsteady = machines.filter(({ changedMind }) => changedMind > 0).length;
  return (
    <section aria-label="Tests by machine" className="mt-6">
      <h2 className="mb-1 flex items-baseline gap-2 text-[15px]">
        By machine, without a case
        <span className="font-display text-ink-soft tabular-nums">{machines.length}</span>
        {unsteady > 0 && (
          <span className="text-[12.5px] font-normal text-signal-ink">{unsteady} unsteady</span>
        )}
      </h2>
      <ul className="case-rows">
        {machines.map(({ testId, suite, name, last, changedMind }) => (
          <li key={testId}>
            <div className="machine-row">
              <span className="min-w-0">
                <span className="block truncate">{name}</span>
                <span className="block truncate text-[12.5px] text-ink-soft">
                  {suite}
                  {changedMind > 0 && (
                    <b className="text-signal-ink">
                      {suite && " · "}
                      changed its mind {counted(changedMind, "time")} on the same commit
                    </b>
                  )}
                  {last?.result === "failed" && last.message && ` · ${last.message.split("\n")[0]}`}
                </span>
              </span>
              <span className="text-right text-[12.5px] text-ink-soft">
                {last ? (
                  <>
                    <b className={last.result === "failed" ? "text-alarm" : "text-done"}>
                      {last.result}
                    </b>{" "}
                    {ago(last.at, now)}
                  </>
                ) : (
                  "no result yet"
                )}
              </span>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
