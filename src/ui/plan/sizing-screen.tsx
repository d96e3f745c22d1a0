"use client";
import { v7 as newId } from "uuid";
import { counted } from "@/core/formats/counted";
import type { AlikeSized, SizingView } from "@/core/plan/sizing-view";
import { Button } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { Round } from "./sizing-round";
import { useSizing } from "./use-sizing";

/** Several people say how large something is: each for themselves, then together. */
export function SizingScreen({
  initial,
  alike,
}: {
  initial: SizingView;
  /** What is like the items of the rounds, by their ids. */
  alike: Record<string, AlikeSized[]>;
}) {
  const { view, act } = useSizing(initial);
  const { openItem } = usePanel();
  const inRound = new Set(view.rounds.map(({ item }) => item.id));
  const waiting = view.unsized.filter(({ id }) => !inRound.has(id));
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 flex-wrap items-center gap-x-4 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">Sizing</h1>
        <p className="text-ink-soft">
          {view.unsizedTotal === 0
            ? "everything in the backlog has a size"
            : `${counted(view.unsizedTotal, "item")} of the backlog without a size`}
        </p>
      </div>
      <div className="flex min-h-0 flex-1 max-sm:flex-col max-sm:overflow-y-auto">
        <div className="min-w-0 flex-1 overflow-y-auto px-4 py-3 max-sm:flex-none">
          {view.rounds.map((round) => (
            <Round
              key={round.id}
              round={round}
              view={view}
              act={act}
              alike={alike[round.item.id]}
            />
          ))}
          {view.rounds.length === 0 && (
            <div className="mx-auto max-w-[520px] py-14 text-center">
              <p className="text-[15px] font-semibold">No round goes on.</p>
              <p className="mt-1 text-ink-soft">
                Begin one about an item: each says how large it is without seeing what the others
                say. Once all is shown you talk about why, and settle on a size.
              </p>
            </div>
          )}
        </div>
        <aside aria-label="Without a size" className="sizing-aside">
          <h2 className="text-[15px]">Without a size</h2>
          <ul>
            {waiting.map(({ id, key, title, typeId }) => (
              <li key={id} data-key={key}>
                <TypeGlyph typeId={typeId} />
                <button
                  type="button"
                  className="flex min-h-6 min-w-0 flex-1 items-center gap-1.5 text-left hover:underline"
                  onClick={() => openItem(key)}
                >
                  <span className="key text-[11.5px]">{key}</span>
                  <span className="truncate">{title}</span>
                </button>
                {view.rights.size && (
                  <Button
                    small
                    aria-label={`Size ${key} together`}
                    onClick={() => void act({ kind: "open", id: newId(), itemId: id })}
                  >
                    Size
                  </Button>
                )}
              </li>
            ))}
          </ul>
          {waiting.length === 0 && <p className="text-[13px] text-ink-soft">None.</p>}
          {view.unsizedTotal > view.unsized.length && (
            <p className="text-[12.5px] text-ink-soft">
              and {view.unsizedTotal - view.unsized.length} more behind them
            </p>
          )}
        </aside>
      </div>
    </div>
  );
}
