"use client";
import type { ReleaseStage } from "@/core/ship/release/release-page";
import { usePanel } from "@/ui/kit/panel-context";

/** Where its items are, drawn as the process runs: high where somebody works, low where they wait. */
export function ReleaseStages({ stages }: { stages: readonly ReleaseStage[] }) {
  const { openBehind } = usePanel();
  if (stages.length === 0)
    return (
      <p className="mb-4 text-ink-soft">Nothing is in it. Drop rows of the backlog onto it.</p>
    );
  return (
    <ol className="release-stages" aria-label="Where its items are">
      {stages.map(({ stateName, kind, n, ids }) => (
        <li key={`${stateName} ${kind}`} data-kind={kind}>
          <button
            type="button"
            onClick={() => openBehind({ title: stateName, ids, unseen: n - ids.length })}
          >
            <b>{n}</b>
            <span>{stateName}</span>
          </button>
        </li>
      ))}
    </ol>
  );
}
