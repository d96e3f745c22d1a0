"use client";
import { useMemo, type CSSProperties } from "react";
import type { ProjectSummary } from "@/core/flow/summary";
import type { TableRow } from "@/core/item/list/table";
import { pick } from "@/core/item/pick";
import { BulkBar } from "@/ui/bulk/bulk-bar";
import { Button } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import type { LookHandle } from "@/ui/view/use-look";
import { drawnColumns, FIRST_FIELD, gridColumns, leastWidth } from "./columns";
import { EmptyTable } from "./empty-table";
import { SumRow } from "./group-row";
import { tableActs } from "./table-acts";
import { TableHead } from "./table-head";
import { TableLine } from "./table-line";
import { useCells } from "./use-cells";
import { useChosen } from "./use-chosen";
import { useGridKeys, type ActiveCell } from "./use-grid-keys";
import { useLines } from "./use-lines";
import type { TableHandle } from "./use-table";

/** So much room the last rows have above what is said of the chosen ones. */
const BELOW = 56;

/** What some rows come to, in words. */
function estimateWords(rows: readonly TableRow[]): string | null {
  const sized = rows.flatMap(({ card }) => card.estimate ?? []);
  return sized.length === 0 ? null : `estimate ${sized.reduce((sum, each) => sum + each, 0)}`;
}

/** The rows themselves: drawn as they come into sight, walked by keys, changed where they stand. */
export function TableGrid({
  handle,
  table,
  summary,
}: {
  handle: LookHandle;
  table: TableHandle;
  summary: ProjectSummary;
}) {
  const { look, views } = handle;
  const { vocabulary, zone } = views;
  const { view, readAgain } = table;
  const { openItem } = usePanel();
  const columns = useMemo(() => drawnColumns(look.fields, vocabulary), [look.fields, vocabulary]);
  const { scroller, ...at } = useLines(handle, table);
  const chosen = useChosen(at.rowAt, columns, vocabulary);
  const cells = useCells({ handle, columns, readAgain, openItem });
  const goTo = (cell: ActiveCell) => grid.go(cell);
  const grid = useGridKeys({
    lines: at.lines,
    columns: columns.length + FIRST_FIELD,
    screen: at.screen,
    scrollTo: at.scrollTo,
    act: tableActs({ at, chosen, cells, openItem, goTo }),
  });
  const facts = { vocabulary, zone, now: view.at, summary };
  const style = {
    "--columns": gridColumns(columns),
    "--least": `${leastWidth(columns)}px`,
  } as CSSProperties;
  const total = view.head?.total;
  const count = chosen.all ? (total?.count ?? 0) : chosen.rows.size;
  return (
    <div className="relative min-h-0 flex-1">
      <div
        ref={scroller}
        role="grid"
        aria-label="Items"
        aria-rowcount={at.lines.count + 2}
        aria-colcount={columns.length + FIRST_FIELD}
        aria-busy={table.waiting}
        aria-multiselectable="true"
        className="lines-grid"
        data-dense={look.dense}
        style={style}
        onKeyDown={cells.editing ? undefined : grid.onKeyDown}
      >
        <TableHead
          handle={handle}
          columns={columns}
          all={chosen.all}
          onAll={(on) => (on ? chosen.takeAll(view.rows) : chosen.drop())}
        />
        <div
          role="rowgroup"
          className="relative"
          style={{ height: at.whole + (count > 0 ? BELOW : 0) }}
        >
          {at.drawn.map((line) => (
            <TableLine
              key={line.index}
              drawn={line}
              at={at}
              columns={columns}
              facts={facts}
              chosen={chosen}
              cells={cells}
              grid={grid}
            />
          ))}
        </div>
        {total && total.count > 0 && (
          <SumRow
            total={total}
            columns={columns}
            vocabulary={vocabulary}
            line={at.lines.count + 2}
          />
        )}
      </div>
      {total?.count === 0 && <EmptyTable handle={handle} />}
      <BulkBar
        handle={handle}
        count={count}
        sum={chosen.all ? null : estimateWords([...chosen.rows.values()])}
        items={
          chosen.all ? pick(table.body, ["board", "condition"]) : { ids: [...chosen.rows.keys()] }
        }
        onDrop={chosen.drop}
      >
        {!chosen.all && (
          <Button small onClick={() => void chosen.copy(undefined)}>
            Copy
          </Button>
        )}
      </BulkBar>
    </div>
  );
}
