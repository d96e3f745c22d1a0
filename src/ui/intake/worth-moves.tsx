"use client";

import { counted } from "@/core/formats/counted";
import type { RankMove } from "@/core/intake/scoring";
import type { WorthRow } from "@/core/intake/worth-view";
import { Button } from "@/ui/kit/button";

/** Which places would change, seen before they do. */
export function WorthMoves({
  moves,
  rows,
  onReorder,
  onLeave,
}: {
  moves: readonly RankMove[];
  rows: readonly WorthRow[];
  onReorder: () => void;
  onLeave: () => void;
}) {
  return (
    <section aria-label="What would move" className="mb-4 max-w-[720px] bg-sheet p-3">
      <h2 className="text-[15px]">
        {moves.length} of {counted(rows.length, "item")} would change{" "}
        {moves.length === 1 ? "its" : "their"} place
      </h2>
      <ol className="max-h-[300px] overflow-y-auto">
        {moves.map((m) => {
          const row = rows.find((r) => r.itemId === m.id)!;
          return (
            <li key={m.id} className="flex gap-3 border-t border-line py-0.5 text-[13px]">
              <span className="w-24 text-right tabular-nums">
                {m.from}{" "}
                <span aria-label={m.to < m.from ? "up to" : "down to"}>
                  {m.to < m.from ? "↑" : "↓"}
                </span>{" "}
                <b>{m.to}</b>
              </span>
              <span className="key w-20">{row.key}</span>
              <span className="min-w-0 flex-1 truncate">{row.title}</span>
            </li>
          );
        })}
      </ol>
      <div className="mt-2 flex gap-2">
        <Button look="accent" small onClick={onReorder}>
          Put the backlog into this order
        </Button>
        <Button look="quiet" small onClick={onLeave}>
          Leave it as it is
        </Button>
      </div>
    </section>
  );
}
