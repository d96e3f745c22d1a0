"use client";

import type { ScoringModel } from "@/core/intake/scoring";
import type { WorthRow } from "@/core/intake/worth-view";
import { Button } from "@/ui/kit/button";

/** Two requests beside each other, part by part. */
export function WorthCompare({
  pair,
  model,
  onClose,
}: {
  pair: WorthRow[];
  model: ScoringModel;
  onClose: () => void;
}) {
  const figure = (row: WorthRow, points: number | null | undefined) => (
    <td key={row.itemId} className="px-3 text-right tabular-nums">
      {points === null || points === undefined ? "–" : Math.round(points * 10) / 10}
    </td>
  );
  return (
    <section aria-label="Compared" className="mb-4 max-w-[860px] bg-sheet p-3">
      <table className="w-full text-[13px]">
        <thead>
          <tr>
            <th className="text-left font-normal text-ink-soft">points of 100</th>
            {pair.map((r) => (
              <th key={r.itemId} className="px-3 text-right">
                {r.key} {r.title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {model.criteria.map((c) => (
            <tr key={c.id} className="border-t border-line">
              <td>{c.name}</td>
              {pair.map((r) =>
                figure(r, r.parts.parts.find((p) => p.criterionId === c.id)?.points),
              )}
            </tr>
          ))}
          {(["score", "costOfDelay", "delayByDuration"] as const).map((what) => (
            <tr key={what} className="border-t border-line font-semibold">
              <td>
                {what === "score"
                  ? "Score"
                  : what === "costOfDelay"
                    ? "Cost of delay"
                    : "Lost a week by size"}
              </td>
              {pair.map((r) => figure(r, r.parts[what]))}
            </tr>
          ))}
        </tbody>
      </table>
      <Button look="quiet" small className="mt-1" onClick={onClose}>
        Close the comparison
      </Button>
    </section>
  );
}
