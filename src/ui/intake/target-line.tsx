"use client";

import { conditionSentence } from "@/core/condition/sentence";
import type { PromisesView } from "@/core/intake/promises-view";
import type { ServiceTarget } from "@/core/intake/service-target";
import { usePanel } from "@/ui/kit/panel-context";
import { RowTools } from "@/ui/kit/row-tools";
import { percent } from "@/ui/kit/time";

/** A promise in the list: what it says, and how it was kept. */
export function TargetLine({
  target,
  view,
  isNew,
  open,
  onOpen,
  onUp,
}: {
  target: ServiceTarget;
  view: PromisesView;
  isNew: boolean;
  open: boolean;
  onOpen: () => void;
  /** Null for the first. */
  onUp: (() => void) | null;
}) {
  const { openBehind } = usePanel();
  const kept = view.kept.find((k) => k.target === target.name);
  return (
    <>
      <div className="flex items-center gap-2">
        <b className="min-w-0 flex-1 truncate">{target.name || "New promise"}</b>
        {view.mayEdit && !isNew && (
          <RowTools name={target.name} open={open} onOpen={onOpen} onUp={onUp} />
        )}
      </div>
      {!isNew && (
        <p className="text-[13px]">
          {target.answerHours !== null && <>answer within {target.answerHours} h</>}
          {target.answerHours !== null && target.resolveHours !== null && ", "}
          {target.resolveHours !== null && <>done within {target.resolveHours} h</>}{" "}
          <span className="text-ink-soft">
            {target.working ? "of working time" : "by the clock"}, when{" "}
            {conditionSentence(target.condition, view.vocabulary)}
          </span>
        </p>
      )}
      {kept && !isNew && (
        <button
          type="button"
          className="text-left text-[12.5px] text-ink-soft hover:underline"
          onClick={() => openBehind({ title: `${target.name}: missed`, ids: kept.both.missedIds })}
        >
          last 12 weeks: {kept.both.missed} of {kept.both.decided} missed
          {kept.answered.share !== null && (
            <>
              , answers kept <b className="text-ink">{percent(kept.answered.share)}</b>
            </>
          )}
          {kept.resolved.share !== null && (
            <>
              , done in time <b className="text-ink">{percent(kept.resolved.share)}</b>
            </>
          )}
        </button>
      )}
    </>
  );
}
