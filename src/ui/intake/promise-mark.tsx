import { AlertTriangle, CheckCircle2, CircleDot, PauseCircle, XCircle } from "lucide-react";
import { exact } from "@/ui/kit/time";
import { targetWords, type TargetStanding, type TargetState } from "@/core/intake/service-target";

const LOOK: Record<TargetStanding, { Icon: typeof CircleDot; className: string; word: string }> = {
  kept: { Icon: CheckCircle2, className: "text-done", word: "kept" },
  "on time": { Icon: CircleDot, className: "text-ink-soft", word: "on time" },
  "at risk": { Icon: AlertTriangle, className: "font-semibold text-signal-ink", word: "at risk" },
  missed: { Icon: XCircle, className: "font-semibold text-alarm", word: "missed" },
  paused: { Icon: PauseCircle, className: "text-ink-soft", word: "stands still" },
};

/**
 * How a promise stands: a sign, and the time left in words.
 * @param what what is promised, where nothing beside it says so; `reads` says it to readers of the
 *   screen alone
 */
export function PromiseMark({
  state,
  zone,
  what,
  reads,
}: {
  state: TargetState;
  /** The project's: what is due is due by its clocks. */
  zone: string;
  what?: string;
  reads?: string;
}) {
  const { Icon, className, word } = LOOK[state.standing];
  return (
    <span
      className={`inline-flex items-center gap-1 whitespace-nowrap text-[12.5px] ${className}`}
      title={state.dueAt === null ? word : `${word}, due ${exact(state.dueAt, zone)}`}
    >
      <Icon size={13} aria-hidden="true" />
      {what && <span className="font-normal text-ink-soft">{what}</span>}
      {reads && <span className="sr-only">{reads}: </span>}
      {state.standing === "at risk" && <span className="sr-only">at risk, </span>}
      {targetWords(state)}
    </span>
  );
}
