"use client";
import { ArrowDown, ArrowUp } from "lucide-react";
import { useRef, type PointerEvent } from "react";
import { isGroupable, isSortable } from "@/core/item/list/query";
import { NARROWEST, WIDEST } from "@/core/view/look";
import { Check } from "@/ui/kit/check";
import { Menu, MenuItem, MenuSection } from "@/ui/kit/menu";
import type { LookHandle } from "@/ui/view/use-look";
import type { DrawnColumn } from "./columns";

const STEP = 24;

/** The names of the columns; each sorts, groups, moves and sizes its own. */
export function TableHead({
  handle,
  columns,
  all,
  onAll,
}: {
  handle: LookHandle;
  columns: readonly DrawnColumn[];
  /** Whether all rows are chosen. */
  all: boolean;
  onAll: (on: boolean) => void;
}) {
  return (
    <div role="row" aria-rowindex={1} className="lines-row lines-head">
      <span role="columnheader" className="lines-cell">
        <Check aria-label="Choose all rows that are shown" checked={all} onChange={onAll} />
      </span>
      <span role="columnheader" className="lines-cell">
        Key
      </span>
      <span role="columnheader" className="lines-cell">
        Title
      </span>
      {columns.map((column, at) => (
        <ColumnHead key={column.fact} handle={handle} column={column} at={at} />
      ))}
    </div>
  );
}

function ColumnHead({
  handle: { look, change },
  column: { fact, label, figures, width },
  at,
}: {
  handle: LookHandle;
  column: DrawnColumn;
  at: number;
}) {
  const { fields, sort } = look;
  const sortedAt = sort.findIndex((one) => one.fact === fact);
  const sorted = sortedAt < 0 ? null : sort[sortedAt];
  const size = (next: number) =>
    change({
      fields: fields.with(at, {
        fact,
        width: Math.round(Math.max(NARROWEST, Math.min(WIDEST, next))),
      }),
    });
  const swap = (by: 1 | -1) =>
    change({ fields: fields.with(at, fields[at + by]).with(at + by, fields[at]) });
  const sortBy = (descending: boolean) => change({ sort: [{ fact, descending }] });
  return (
    <span
      role="columnheader"
      aria-sort={sorted ? (sorted.descending ? "descending" : "ascending") : undefined}
      className={`lines-cell relative ${figures ? "justify-end" : ""}`}
    >
      <Menu
        trigger={
          <button type="button" className="lines-name" title={label}>
            <span className="truncate">{label}</span>
            {sorted &&
              (sorted.descending ? (
                <ArrowDown size={12} aria-hidden="true" className="shrink-0" />
              ) : (
                <ArrowUp size={12} aria-hidden="true" className="shrink-0" />
              ))}
            {sorted && sort.length > 1 && <sub>{sortedAt + 1}</sub>}
          </button>
        }
      >
        {isSortable(fact) && (
          <>
            <MenuItem onSelect={() => sortBy(false)}>Sort, rising</MenuItem>
            <MenuItem onSelect={() => sortBy(true)}>Sort, falling</MenuItem>
            {sort.length > 0 && !sorted && (
              <MenuItem onSelect={() => change({ sort: [...sort, { fact, descending: false }] })}>
                Sort by it next
              </MenuItem>
            )}
            {sorted && (
              <MenuItem onSelect={() => change({ sort: sort.toSpliced(sortedAt, 1) })}>
                Do not sort by it
              </MenuItem>
            )}
          </>
        )}
        {isGroupable(fact) && (
          <MenuItem onSelect={() => change({ group: look.group === fact ? null : fact })}>
            {look.group === fact ? "No groups" : "In groups by it"}
          </MenuItem>
        )}
        <MenuSection>
          <MenuItem disabled={at === 0} onSelect={() => swap(-1)}>
            To the left
          </MenuItem>
          <MenuItem disabled={at === fields.length - 1} onSelect={() => swap(1)}>
            To the right
          </MenuItem>
          <MenuItem onSelect={() => size(width + STEP)}>Wider</MenuItem>
          <MenuItem onSelect={() => size(width - STEP)}>Narrower</MenuItem>
          <MenuItem onSelect={() => change({ fields: fields.toSpliced(at, 1) })}>
            Take the column out
          </MenuItem>
        </MenuSection>
      </Menu>
      <Edge width={width} onSize={size} />
    </span>
  );
}

/** The right edge of a column, to be dragged. By keys the menu of the column does the same. */
function Edge({ width, onSize }: { width: number; onSize: (width: number) => void }) {
  const start = useRef<number | null>(null);
  const sizeAt = (event: PointerEvent) => width + event.clientX - (start.current ?? event.clientX);
  return (
    <i
      aria-hidden="true"
      className="lines-edge"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        start.current = event.clientX;
      }}
      onPointerUp={(event) => {
        if (start.current !== null) onSize(sizeAt(event));
        start.current = null;
      }}
    />
  );
}
