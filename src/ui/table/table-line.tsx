"use client";
import type { ReactNode } from "react";
import { usePanel } from "@/ui/kit/panel-context";
import type { CellFacts } from "./cell";
import type { GoesOn } from "./cell-editor";
import type { DrawnColumn } from "./columns";
import { GroupRow } from "./group-row";
import { ItemRow, WaitingRow } from "./table-row";
import type { Cells } from "./use-cells";
import type { ChosenHandle } from "./use-chosen";
import type { GridKeys } from "./use-grid-keys";
import type { DrawnLine, Lines } from "./use-lines";

/** One line of a table: the head of a group, an item, or the shape of one that is on its way. */
export function TableLine({
  drawn: { index, top, height, line },
  at,
  columns,
  facts,
  chosen,
  cells,
  grid,
  addTo,
}: {
  drawn: DrawnLine;
  at: Omit<Lines, "scroller">;
  columns: readonly DrawnColumn[];
  facts: CellFacts;
  chosen: ChosenHandle;
  cells: Cells;
  grid: GridKeys;
  /** What adds items to a group. */
  addTo: (group: number) => ReactNode;
}) {
  const { openItem, itemKey } = usePanel();
  const place = { line: index, top, height };
  const active = grid.active.line === index;
  const point = (column?: number) => {
    if (!cells.editing) grid.point(index, column);
  };
  if (line.kind === "group")
    return (
      <GroupRow
        group={at.groups[line.group]}
        place={place}
        columns={columns}
        vocabulary={facts.vocabulary}
        closed={at.isClosed(line.group)}
        active={active}
        onTurn={() => at.turnGroup(line.group)}
        onPoint={() => point()}
      >
        {addTo(line.group)}
      </GroupRow>
    );
  const row = at.rowAt(line.row);
  if (!row) return <WaitingRow place={place} />;
  const { column } = grid.active;
  const goOn = (goesOn: GoesOn) => {
    if (goesOn === "down") grid.go({ line: index + 1, column });
    else if (goesOn === "right") grid.go({ line: index, column: column + 1 });
    else grid.refocus();
  };
  return (
    <ItemRow
      row={row}
      place={place}
      columns={columns}
      facts={facts}
      active={active ? column : null}
      chosen={chosen.has(row.card.id, line.group)}
      open={row.card.key === itemKey}
      typedAt={cells.typedAt}
      editor={active && cells.editing ? cells.editorFor(row, column, goOn) : null}
      onChoose={(run) => (run ? chosen.runTo(line.row) : chosen.turn(line.row))}
      onOpen={() => openItem(row.card.key)}
      onPoint={point}
      onEdit={(at) => {
        grid.point(index, at);
        cells.start(row, at);
      }}
    />
  );
}
