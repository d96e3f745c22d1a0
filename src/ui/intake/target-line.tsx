"use client";

import { conditionSentence } from "@/core/condition/sentence";
import type { PromisesView } from "@/core/intake/promises-view";
import type { ServiceTarget } from "@/core/intake/service-target";
import { counted } from "@/core/formats/counted";
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
  const kept = view.kept.find((k) => k.targetId === target.id);
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
      {kept && !isNew && <KeptLine kept={kept} />}
    </>
  );
}

/** How a promise was kept in the last weeks; the figure opens the items behind it. */
export function KeptLine({ kept }: { kept: PromisesView["kept"][number] }) {
  const { openBehind } = usePanel();
  const { target, both, answered, resolved } = kept;
  if (both.decided === 0)
    return (
      <p className="text-[12.5px] text-ink-soft">last 12 weeks: no item was decided under it</p>
    );
  return (
    <button
      type="button"
      className="text-left text-[12.5px] text-ink-soft hover:underline"
      onClick={() => openBehind({ title: `${target}: missed`, ids: both.missedIds })}
    >
      last 12 weeks: missed at {both.missed} of {counted(both.decided, "item")}
      {answered.share !== null && (
        <>
          , answered in time <b className="text-ink">{percent(answered.share)}</b>
        </>
      )}
      {resolved.share !== null && (
        <>
          , done in time <b className="text-ink">{percent(resolved.share)}</b>
        </>
      )}
    </button>
  );
}
