"use client";
import { useDraggable, useDroppable } from "@dnd-kit/core";
import { ChevronRight, Ellipsis } from "lucide-react";
import { addDays } from "@/core/calendar/month";
import { isUnder } from "@/core/plan/piece-tree";
import type { PieceTreeView, TreePiece } from "@/core/plan/piece-view";
import { Button } from "@/ui/kit/button";
import { Menu, MenuItem, MenuSection } from "@/ui/kit/menu";
import { usePanel } from "@/ui/kit/panel-context";
import { shortDate } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { ProgressBar } from "./progress-bar";
import type { PiecesHandle } from "./use-pieces";

/** Where on a row something is dropped: onto it, or into the gap behind it. */
export const UNDER = "under";
export const BEHIND = "behind";

const INDENT = 22;

/** A large piece in the tree, with how far it is and when it will probably be done. */
export function PieceRow({
  piece,
  depth,
  parent,
  folded,
  chosen,
  handle,
  onFold,
  onChoose,
}: {
  piece: TreePiece;
  depth: number;
  parent: boolean;
  folded: boolean;
  chosen: boolean;
  handle: PiecesHandle;
  onFold: () => void;
  onChoose: () => void;
}) {
  const { view } = handle;
  const { setNodeRef, listeners, transform } = useDraggable({
    id: piece.id,
    disabled: !view.rights.edit,
  });
  const { setNodeRef: setUnder, isOver: isOverUnder } = useDroppable({
    id: `${UNDER}:${piece.id}`,
    data: { where: UNDER, id: piece.id },
  });
  const { setNodeRef: setBehind, isOver: isOverBehind } = useDroppable({
    id: `${BEHIND}:${piece.id}`,
    data: { where: BEHIND, id: piece.id },
  });
  return (
    <li
      ref={setNodeRef}
      className="piece"
      data-key={piece.key}
      data-depth={depth}
      data-chosen={chosen || undefined}
      data-finished={piece.stateKind === "finished" || undefined}
      style={
        transform
          ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 5 }
          : undefined
      }
      {...listeners}
    >
      <div
        ref={setUnder}
        className="piece-row"
        data-over={isOverUnder || undefined}
        style={{ paddingLeft: 12 + depth * INDENT }}
      >
        <button
          type="button"
          className="piece-fold"
          aria-label={`${folded ? "Unfold" : "Fold"} ${piece.key}`}
          aria-expanded={!folded}
          disabled={!parent}
          onClick={onFold}
        >
          {parent && (
            <ChevronRight
              size={14}
              aria-hidden="true"
              className={folded ? undefined : "rotate-90"}
            />
          )}
        </button>
        <TypeGlyph typeId={piece.typeId} />
        <button type="button" className="piece-name" aria-pressed={chosen} onClick={onChoose}>
          <span className="key text-[12px]">{piece.key}</span>
          <span className="truncate font-medium">{piece.title}</span>
        </button>
        <span className="piece-state">{piece.stateName}</span>
        <span className="piece-progress">
          <ProgressBar progress={piece.progress} />
          <span>{progressWords(piece)}</span>
        </span>
        <span className="piece-days">
          {daysWords(piece)}
          {piece.byHand && <i>planned by hand</i>}
        </span>
        <Probably piece={piece} today={view.today} />
        <RowMenu piece={piece} handle={handle} />
      </div>
      <i ref={setBehind} className="piece-gap" data-over={isOverBehind || undefined} />
    </li>
  );
}

function progressWords({ progress: { items, done, points, donePoints } }: TreePiece): string {
  if (items === 0) return "nothing under it";
  return points > 0 ? `${done} of ${items} · ${donePoints}/${points} p` : `${done} of ${items}`;
}

/** From when to when it goes, by what is under it unless planned by hand. */
function daysWords({ from, to }: TreePiece): string {
  if (from === null && to === null) return "no days yet";
  const part = (day: string | null) => (day === null ? "…" : shortDate(day));
  return `${part(from)} – ${part(to)}`;
}

/** When it is due, and when it will probably be finished; in alarm where that is too late. */
function Probably({
  piece: { dueOn, until, stateKind },
  today,
}: {
  piece: TreePiece;
  today: PieceTreeView["today"];
}) {
  const day = until?.sure == null ? null : addDays(today, until.sure);
  const open = stateKind !== "finished";
  const late = open && dueOn !== null && (day !== null ? day > dueOn : dueOn < today);
  return (
    <span className="piece-until" data-late={late || undefined}>
      {day !== null && open ? `85 % by ${shortDate(day)}` : ""}
      {dueOn !== null && <span className="block">due {shortDate(dueOn)}</span>}
    </span>
  );
}

/** The same as by dragging, for the keyboard. */
function RowMenu({ piece, handle }: { piece: TreePiece; handle: PiecesHandle }) {
  const { view, putUnder, putBehind } = handle;
  const { openItem } = usePanel();
  const siblings = view.pieces.filter(({ parentId }) => parentId === piece.parentId);
  const at = siblings.findIndex(({ id }) => id === piece.id);
  const larger = view.pieces.filter(
    (one) =>
      one.level > piece.level &&
      one.id !== piece.parentId &&
      one.stateKind !== "finished" &&
      !isUnder(view.pieces, one.id, piece.id),
  );
  const next = siblings.at(at + 1);
  return (
    <Menu
      align="end"
      trigger={
        <Button small look="quiet" className="!px-1" aria-label={`More for ${piece.key}`}>
          <Ellipsis size={13} aria-hidden="true" />
        </Button>
      }
    >
      <MenuItem onSelect={() => openItem(piece.key)}>Open it</MenuItem>
      {view.rights.edit && (
        <>
          <MenuSection>
            {next && view.rights.rank && (
              <MenuItem onSelect={() => void putBehind(piece, next)}>Behind {next.key}</MenuItem>
            )}
            {at > 0 && view.rights.rank && (
              <MenuItem onSelect={() => void putBehind(siblings[at - 1], piece)}>
                Before {siblings[at - 1].key}
              </MenuItem>
            )}
          </MenuSection>
          <MenuSection>
            {larger.map((one) => (
              <MenuItem key={one.id} onSelect={() => void putUnder(piece, one)}>
                Under {one.key} {one.title}
              </MenuItem>
            ))}
            {piece.parentId !== null && (
              <MenuItem onSelect={() => void putUnder(piece, null)}>Under nothing</MenuItem>
            )}
          </MenuSection>
        </>
      )}
    </Menu>
  );
}
