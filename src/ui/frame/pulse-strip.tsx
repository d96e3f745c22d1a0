"use client";
import { ageWords } from "@/core/flow/age";
import { expectationWords } from "@/core/flow/expectation";
import { percent } from "@/ui/kit/time";
import { usePanel } from "@/ui/kit/panel-context";
import type { Connection } from "@/ui/kit/use-live";
import { BrokenLimits } from "./broken-limits";
import type { ProjectSummary } from "@/core/flow/summary";

const CONNECTION_WORDS: Record<Exclude<Connection, "live">, string> = {
  reconnecting: "Connection lost. What you see may be old; connecting again…",
  "database away": "The database is away for a moment. Nothing is lost; trying again…",
};

const howMany = (ids: readonly string[]): string => ids.length.toLocaleString("en");

/** The project's health in one line; each figure opens the items behind it. */
export function PulseStrip({
  summary,
  connection,
}: {
  summary: ProjectSummary;
  connection: Connection;
}) {
  const { openBehind } = usePanel();
  const { pulse, limitsBroken } = summary;
  const { oldest, kept, expectation } = pulse;
  const late = oldest !== null && oldest.age > expectation.days;
  const figure = (text: string, title: string, ids: string[], alarm = false) => (
    <button
      type="button"
      onClick={() => openBehind({ title, ids })}
      className={`font-bold underline-offset-4 hover:underline ${alarm ? "text-alarm" : "text-ink"}`}
    >
      {text}
    </button>
  );
  return (
    <footer
      aria-label="Pulse of the project"
      className="pulse-strip flex h-7 shrink-0 items-center gap-6 overflow-hidden whitespace-nowrap border-t border-line bg-sheet px-4 text-[13px] text-ink-soft"
    >
      {connection === "live" ? null : (
        <strong role="status" className="bg-signal-soft px-2 text-signal-ink">
          {CONNECTION_WORDS[connection]}
        </strong>
      )}
      <span>{figure(howMany(pulse.inProgress), "In progress", pulse.inProgress)} in progress</span>
      <span>
        expectation <b className="text-ink">{expectationWords(expectation)}</b>, kept{" "}
        {figure(
          percent(kept.share),
          "Took longer than the expectation, last 12 weeks",
          kept.itemIds,
          kept.met === false,
        )}
      </span>
      {oldest && (
        <span>
          oldest{" "}
          {figure(ageWords(oldest, "short"), "The oldest item in progress", [oldest.itemId], late)}
        </span>
      )}
      <span>
        {figure(howMany(pulse.blocked), "Blocked", pulse.blocked, pulse.blocked.length > 0)} blocked
      </span>
      <BrokenLimits limits={limitsBroken} />
      <span>
        this week{" "}
        {figure(howMany(pulse.arrivedThisWeek), "Started this week", pulse.arrivedThisWeek)} in,{" "}
        {figure(howMany(pulse.departedThisWeek), "Finished this week", pulse.departedThisWeek)} out
      </span>
      <span>
        flow efficiency{" "}
        {figure(percent(pulse.efficiency), "Finished in the last 12 weeks", pulse.recentlyFinished)}
      </span>
      {!summary.seesAll && (
        <span className="truncate text-[12px]">counts also what you may not see</span>
      )}
    </footer>
  );
}
