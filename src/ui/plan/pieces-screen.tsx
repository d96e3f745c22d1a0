"use client";
import {
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import { isUnder, treeRows } from "@/core/plan/piece-tree";
import type { PieceTreeView, TreePiece } from "@/core/plan/piece-view";
import { Dragging } from "@/ui/kit/dragging";
import { TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import { PieceAside } from "./piece-aside";
import { BEHIND, PieceRow, UNDER } from "./piece-row";
import { usePieces } from "./use-pieces";

/** A pointer must travel this far before a click becomes a drag. */
const DRAG_FROM_PX = 4;

/** The large pieces of work as a tree: what stands under what, how far each is, when it is done. */
export function PiecesScreen({ initial }: { initial: PieceTreeView }) {
  const handle = usePieces(initial);
  const { view, putUnder, putBehind } = handle;
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [chosen, setChosen] = useState<string | null>(initial.pieces.at(0)?.id ?? null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAG_FROM_PX } }),
  );
  const rows = treeRows(view.pieces, folded);
  const fold = (id: string) =>
    setFolded((now) => {
      const next = new Set(now);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  const pieceOf = (id: string): TreePiece | undefined => view.pieces.find((one) => one.id === id);
  const drop = ({ active, over }: DragEndEvent) => {
    if (!over) return;
    const [where, overId] = [over.data.current?.where, String(over.data.current?.id)];
    const piece = pieceOf(String(active.id));
    const dragged = piece ?? (active.data.current?.story as Parameters<typeof putUnder>[0]);
    const other = pieceOf(overId);
    if (!dragged || !other || dragged.id === other.id) return;
    if (piece && isUnder(view.pieces, other.id, piece.id)) return;
    if (where === UNDER) void putUnder(dragged, other);
    else if (where === BEHIND && piece) void putBehind(piece, other);
  };
  const shown = chosen === null ? undefined : pieceOf(chosen);
  return (
    <div className="flex h-full flex-col">
      <PiecesHead view={view} />
      <Dragging id="pieces" sensors={sensors} collisionDetection={pointerWithin} onDragEnd={drop}>
        <div className="flex min-h-0 flex-1 max-sm:flex-col max-sm:overflow-y-auto">
          <div className="min-w-0 flex-1 overflow-y-auto max-sm:flex-none">
            {view.pieces.length === 0 && (
              <p className="px-4 py-16 text-center text-ink-soft">
                No large piece is open. An item of a type of a higher level is one; stories stand
                under it.
              </p>
            )}
            <ul className="piece-tree" aria-label="Large pieces">
              {rows.map(({ node, depth, parent }) => (
                <PieceRow
                  key={node.id}
                  piece={node}
                  depth={depth}
                  parent={parent}
                  folded={folded.has(node.id)}
                  chosen={node.id === chosen}
                  handle={handle}
                  onFold={() => fold(node.id)}
                  onChoose={() => setChosen(node.id)}
                />
              ))}
            </ul>
          </div>
          {shown && <PieceAside key={shown.id} piece={shown} handle={handle} />}
        </div>
      </Dragging>
    </div>
  );
}

function PiecesHead({ view: { pieces, loose, levels } }: { view: PieceTreeView }) {
  const { openBehind } = usePanel();
  const open = pieces.filter(({ stateKind }) => stateKind !== "finished");
  const byLevel = [...new Set(open.map(({ level }) => level))].map((level) =>
    counted(open.filter((one) => one.level === level).length, levels[level] ?? "piece"),
  );
  return (
    <div className="flex shrink-0 flex-wrap items-center gap-x-4 border-b border-line px-4 py-2.5">
      <h1 className="text-[18px]">Large pieces</h1>
      <p className="text-ink-soft">{byLevel.join(", ")}</p>
      {loose.items > 0 && (
        <TextButton
          onClick={() => openBehind({ title: "Under no large piece", ids: [...loose.ids] })}
        >
          {counted(loose.items, "story", "stories")} under none of them
        </TextButton>
      )}
    </div>
  );
}
