"use client";
import { mayBeReady } from "@/core/item/ready";
import { ReadyMark } from "@/ui/kit/ready-mark";
import { Button } from "@/ui/kit/button";
import { tellProblem } from "@/ui/kit/notice";
import { span } from "@/ui/kit/time";
import type { ItemHandle } from "./use-item";

/** Says that the work in the item's state is done, or takes that back. */
export function ReadyButton({ handle: { view, send } }: { handle: ItemHandle }) {
  const { item } = view;
  if (!mayBeReady(item)) return null;
  const on = item.readySince === null;
  const done = on ? "is ready for its next step" : "is worked on again";
  return (
    <Button
      small
      aria-pressed={!on}
      title={
        on ? `The work in ${view.state.name} is done: whoever comes next may pull it` : undefined
      }
      onClick={() => void send({ kind: "ready", on }, `${view.key} ${done}.`).catch(tellProblem)}
    >
      <ReadyMark />
      {on ? "Ready for its next step" : `Ready for ${span(view.now - item.readySince!)}: take back`}
    </Button>
  );
}
