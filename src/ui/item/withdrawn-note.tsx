"use client";
import { Button } from "@/ui/kit/button";
import { tellProblem } from "@/ui/kit/notice";
import { exact } from "@/ui/kit/time";
import type { ItemHandle } from "./use-item";

/** Brings a withdrawn item back, with what was withdrawn with it. */
export function useBringBack({ view, send }: ItemHandle): () => void {
  return () =>
    void send({ kind: "bring back" }, `${view.key} is back in ${view.state.name}.`).catch(
      tellProblem,
    );
}

/** Says of a withdrawn item who took it out and why. */
export function WithdrawnNote({ handle }: { handle: ItemHandle }) {
  const { view } = handle;
  const bringBack = useBringBack(handle);
  if (!view.withdrawn) return null;
  const { who, why, at, mayBringBack } = view.withdrawn;
  return (
    <p className="flex flex-wrap items-center gap-x-3 gap-y-1 bg-signal-soft px-3 py-2 text-signal-ink">
      <span className="min-w-0 flex-1">
        <b>Withdrawn</b> by {who}, {exact(at, view.project.zone)}: {why}
      </span>
      {mayBringBack && (
        <Button small onClick={bringBack}>
          Bring it back
        </Button>
      )}
    </p>
  );
}
