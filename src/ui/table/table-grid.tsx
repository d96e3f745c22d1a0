"use client";
import { useMemo, type CSSProperties } from "react";
import type { Figures } from "@/core/flow/summary";
import { groupMeaning } from "@/core/item/list/group";
import { filterOf } from "@/core/view/filter";
import { pick } from "@/core/item/pick";
import { BulkBar } from "@/ui/bulk/bulk-bar";
import { Button } from "@/ui/kit/button";
import { usePins } from "@/ui/item/use-pins";
import { usePanel } from "@/ui/kit/panel-context";
import { amountWords } from "@/ui/view/amount-words";
import type { LookHandle } from "@/ui/view/use-look";
import { drawnColumns, FIRST_FIELD, gridColumns, leastWidth } from "./columns";
import { EmptyTable } from "./empty-table";
import { SumRow } from "./group-row";
import { tableActs } from "./table-acts";
import { TableHead } from "./table-head";
import { TableLine } from "./table-line";
import { useTableAdding } from "./use-table-adding";
import { useCells } from "./use-cells";
import { useChosen } from "./use-chosen";
import { useGridKeys, type ActiveCell } from "./use-grid-keys";
import { useLines } from "./use-lines";
import type { TableHandle } from "./use-table";

/** So much room the last rows have above what is said of the chosen ones. */
const BELOW = 56;

/** The rows themselves: drawn as they come into sight, walked by keys, changed where they stand. */
export function TableGrid({
  handle,
  table,
  summary,
}: {
  handle: LookHandle;
  table: TableHandle;
  summary: Figures;
}) {
  const { look, views } = handle;
  const { vocabulary, zone } = views;
  const { view, readAgain } = table;
  const { openItem } = usePanel();
  const { turn } = usePins();
  const columns = useMemo(() => drawnColumns(look.fields, vocabulary), [look.fields, vocabulary]);
  const { scroller, ...at } = useLines(handle, table);
  const chosen = useChosen(at.rowAt, columns, vocabulary);
  const cells = useCells({ handle, columns, readAgain, openItem });
  const adding = useTableAdding(handle, at.groups);
  const takeGroup = (group: number) => {
    const meaning = look.group && groupMeaning(look.group, at.groups[group].key);
    if (meaning) chosen.takeGroup(meaning, { at: group, count: at.groups[group].count });
  };
  const goTo = (cell: ActiveCell) => grid.go(cell);
  const grid = useGridKeys({
    lines: at.lines,
    columns: columns.length + FIRST_FIELD,
    screen: at.screen,
    scrollTo: at.scrollTo,
    act: tableActs({
      at,
      chosen,
      cells,
      openItem,
      goTo,
      takeGroup,
      add: adding.open,
      addTo: adding.openUnder,
      pin: turn,
    }),
  });
  const facts = { vocabulary, zone, now: view.at, summary };
  const style = {
    "--columns": gridColumns(columns),
    "--least": `${leastWidth(columns)}px`,
  } as CSSProperties;
  const [total, { wide }] = [view.head?.total, chosen];
  const count = wide ? (wide.group?.count ?? total?.count ?? 0) : chosen.rows.size;
  const words = amountWords(look.sum, vocabulary);
  return (
    <div className="relative min-h-0 min-w-0 flex-1">
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
          all={wide !== null && wide.group === null}
          onAll={(on) => (on ? chosen.takeAll() : chosen.drop())}
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
              addTo={adding.inGroup}
            />
          ))}
        </div>
        {total && total.count > 0 && (
          <SumRow total={total} columns={columns} vocabulary={vocabulary} line={at.lines.count + 2}>
            {adding.atFoot}
          </SumRow>
        )}
      </div>
      {adding.under}
      {total?.count === 0 && <EmptyTable handle={handle} />}
      <BulkBar
        handle={handle}
        count={count}
        sum={wide ? null : words.column(chosen.tally(look.sum), false)}
        items={
          wide
            ? {
                ...pick(table.body, ["board"]),
                condition: filterOf([table.body.condition, wide.of]),
              }
            : { ids: [...chosen.rows.keys()] }
        }
        onDrop={chosen.drop}
      >
        {!wide && (
          <Button small onClick={() => void chosen.copy(undefined)}>
            Copy
          </Button>
        )}
      </BulkBar>
    </div>
  );
}
