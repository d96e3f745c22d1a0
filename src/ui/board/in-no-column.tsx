import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { counted } from "@/core/formats/counted";
import { usePanel } from "@/ui/kit/panel-context";

/** What the board is about and none of its columns shows: said, and opened by a click. */
export function InNoColumn({ cards, view }: { cards: Card[]; view: BoardView }) {
  const { openBehind } = usePanel();
  if (cards.length === 0) return null;
  const states = view.workflows
    .flatMap((w) => w.states)
    .filter((s) => cards.some((c) => c.stateId === s.id));
  const title = `In no column of this board: ${states.map((s) => s.name).join(", ")}`;
  return (
    <button
      type="button"
      className="border-l-[3px] border-signal pl-2 text-left text-[13px] whitespace-nowrap text-signal-ink hover:underline"
      title={title}
      onClick={() => openBehind({ title, ids: cards.map((c) => c.id) })}
    >
      <b>{counted(cards.length, "item")}</b> in no column
    </button>
  );
}
