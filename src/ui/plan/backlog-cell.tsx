"use client";
import { useState } from "react";
import type { Card } from "@/core/board/card";
import { factOf, type FactName, type FactValue } from "@/core/condition/facts";
import { valueWords } from "@/core/item/list/value-words";
import { sizeWords } from "@/core/plan/size-scale";
import type { BacklogView } from "@/core/plan/backlog-view";
import type { LargePiece } from "@/core/plan/reach-view";
import { Menu, MenuItem, MenuSection } from "@/ui/kit/menu";
import { usePanel } from "@/ui/kit/panel-context";
import { useSizes } from "@/ui/kit/sizes";
import { Cell } from "@/ui/table/cell";
import { CellEditor } from "@/ui/table/cell-editor";
import { editOf, type useCellEdit } from "@/ui/table/use-cell-edit";
import type { DrawnBacklogColumn } from "./backlog-columns";
import { focusBeside, focusColumn } from "./backlog-focus";
import type { BacklogOrder } from "./use-backlog-order";

interface CellProps {
  card: Card;
  drawn: DrawnBacklogColumn;
  view: BacklogView;
}

/** What an item says in a column of the backlog, changed where it stands. */
export function FactCell({
  card,
  drawn,
  fact,
  value: given,
  view,
  edit,
}: CellProps & { fact: FactName; value: FactValue; edit: ReturnType<typeof useCellEdit> }) {
  const { vocabulary, project, now, rights } = view;
  const scale = useSizes();
  const [editing, setEditing] = useState(false);
  // Where it was changed, the focus comes back to it.
  const [left, setLeft] = useState(false);
  const typed = edit.typedAt(card.id, fact);
  const value = typed === undefined ? given : (typed as FactValue);
  const shown = (
    <Cell
      card={card}
      fact={fact}
      value={value}
      facts={{ vocabulary, zone: project.zone, now, summary: null }}
    />
  );
  if (editOf(fact, { edit: rights.edit, move: false }) !== "value")
    return <span className="backlog-cell-words">{shown}</span>;
  const leave = () => {
    setEditing(false);
    setLeft(true);
  };
  if (editing)
    return (
      <span className="relative block w-full">
        <CellEditor
          row={{ card }}
          fact={fact}
          value={value}
          vocabulary={vocabulary}
          onLeave={leave}
          onStore={(next, goesOn) => {
            leave();
            void edit.store({ card }, fact, next, drawn.name);
            if (goesOn === "down") goDown(card, drawn.column);
          }}
        />
      </span>
    );
  const words =
    fact === "estimate" && value !== null
      ? sizeWords(value as number, scale)
      : Array.isArray(value)
        ? value.map((one) => valueWords(fact, one, vocabulary)).join(", ") || "none"
        : valueWords(fact, value, vocabulary);
  const called = `${drawn.name} of ${card.key}: `;
  // The initials beside a name are seen, and stand in no label of ours.
  const saysItself = factOf(fact).options === "people" && value !== null;
  return (
    <button
      type="button"
      tabIndex={-1}
      data-column={drawn.column}
      className="backlog-cell-words"
      aria-label={saysItself ? undefined : `${called}${words}`}
      autoFocus={left}
      onBlur={() => setLeft(false)}
      onClick={() => setEditing(true)}
    >
      {saysItself && <span className="sr-only">{called}</span>}
      {shown}
    </button>
  );
}

/** The focus goes on to the same cell of the row below. */
function goDown(card: Card, column: string): void {
  const row = document.querySelector<HTMLElement>(`[data-backlog] [data-key="${card.key}"]`);
  if (!row) return;
  focusBeside(row, 1);
  const below = document.activeElement;
  if (below instanceof HTMLElement && below.dataset.key) focusColumn(below, column);
}

/** What it stands under: another one is chosen where it stands. */
export function ParentCell({
  card,
  parent,
  pieces,
  view,
  order,
}: Omit<CellProps, "drawn"> & {
  parent: { key: string; title: string } | undefined;
  pieces: readonly LargePiece[];
  order: BacklogOrder;
}) {
  const { openItem } = usePanel();
  const words = parent?.title ?? "–";
  if (!view.rights.edit) return <span className="backlog-cell-words text-ink-soft">{words}</span>;
  return (
    <Menu
      trigger={
        <button
          type="button"
          tabIndex={-1}
          data-column="parent"
          className="backlog-cell-words text-ink-soft"
          aria-label={`Under of ${card.key}: ${parent?.title ?? "nothing"}`}
        >
          <span className="truncate">{words}</span>
        </button>
      }
    >
      {parent && (
        <MenuSection>
          <MenuItem onSelect={() => openItem(parent.key)}>Open {parent.key}</MenuItem>
          <MenuItem onSelect={() => void order.plan(card, { kind: "piece", key: null, name: "" })}>
            Under nothing
          </MenuItem>
        </MenuSection>
      )}
      {pieces
        .filter(({ key }) => key !== parent?.key)
        .map(({ key, title }) => (
          <MenuItem
            key={key}
            onSelect={() => void order.plan(card, { kind: "piece", key, name: title })}
          >
            {title}
          </MenuItem>
        ))}
    </Menu>
  );
}
