"use client";
import { counted } from "@/core/formats/counted";
import type { WaitingView } from "@/core/plan/waiting-view";
import { useWaiting } from "./use-waiting";
import { WaitingPicture } from "./waiting-picture";
import { WaitingSide } from "./waiting-side";

/** What waits for what over the next sprints, where that does not hold, and what would mend it. */
export function WaitingScreen({ initial }: { initial: WaitingView }) {
  const handle = useWaiting(initial);
  const { view, conflicts } = handle;
  const broken = conflicts.filter(({ kind }) => kind === "before").length;
  const close = conflicts.length - broken;
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 flex-wrap items-center gap-x-4 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">What waits for what</h1>
        {view.waits.length > 0 && (
          <p className="text-ink-soft">
            {counted(view.waits.length, "dependency", "dependencies")} between open items
            {broken > 0 && (
              <>
                , <b className="text-alarm">{broken} not held</b>
              </>
            )}
            {close > 0 && (
              <>
                , <b className="text-signal-ink">{close} in one sprint by two teams</b>
              </>
            )}
          </p>
        )}
      </div>
      {view.waits.length === 0 ? (
        <p className="py-16 text-center text-ink-soft">
          Nothing open waits for anything. Say it on an item, with <i>Link another item</i>: waits
          for.
        </p>
      ) : (
        <div className="flex min-h-0 flex-1 max-sm:flex-col max-sm:overflow-y-auto">
          <WaitingPicture handle={handle} />
          <WaitingSide handle={handle} />
        </div>
      )}
    </div>
  );
}
