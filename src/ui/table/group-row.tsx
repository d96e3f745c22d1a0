"use client";
import { ChevronDown, ChevronRight } from "lucide-react";
import type { ReactNode } from "react";
import { counted } from "@/core/formats/counted";
import { sumWords, type TableGroup } from "@/core/item/list/table";
import type { Vocabulary } from "@/core/condition/vocabulary";
import type { DrawnColumn } from "./columns";
import { placeOf, type RowPlace } from "./table-row";

/** What the columns of a group come to, each under its own head. */
export function Sums({
  columns,
  sums,
  vocabulary,
}: {
  columns: readonly DrawnColumn[];
  sums: TableGroup["sums"];
  vocabulary: Vocabulary;
}) {
  return columns.map(({ fact, figures }, i) => {
    const told = sumWords(fact, sums[i], vocabulary);
    return (
      <span
        key={fact}
        role="gridcell"
        className={`lines-cell text-[12.5px] ${figures ? "figures justify-end" : ""}`}
        title={told ? told.label : undefined}
      >
        {told && (
          <span className="truncate">
            {told.label !== "sum" && <span className="text-ink-soft">{told.label} </span>}
            <b>{told.words}</b>
          </span>
        )}
      </span>
    );
  });
}

/** The head of a group: what its items share, how many they are, and what they come to. */
export function GroupRow({
  group,
  place,
  columns,
  vocabulary,
  closed,
  active,
  children,
  onTurn,
  onPoint,
}: {
  group: TableGroup;
  place: RowPlace;
  columns: readonly DrawnColumn[];
  vocabulary: Vocabulary;
  closed: boolean;
  active: boolean;
  /** What can be brought to it. */
  children: ReactNode;
  onTurn: () => void;
  onPoint: () => void;
}) {
  const Sign = closed ? ChevronRight : ChevronDown;
  return (
    <div
      role="row"
      aria-rowindex={place.line + 2}
      data-group={group.label}
      data-active={active}
      className="lines-row lines-line lines-group"
      style={placeOf(place)}
      onPointerMove={onPoint}
    >
      <span
        role="gridcell"
        aria-expanded={!closed}
        tabIndex={active ? 0 : -1}
        data-cell={`${place.line}:0`}
        className="lines-cell lines-group-name"
        onClick={onTurn}
      >
        <Sign size={14} aria-hidden="true" />
        <b className="truncate">{group.label}</b>
        <span className="shrink-0 text-ink-soft">{counted(group.count, "item")}</span>
        {children}
      </span>
      <Sums columns={columns} sums={group.sums} vocabulary={vocabulary} />
    </div>
  );
}

/** What everything that is shown comes to, at the foot. */
export function SumRow({
  total,
  columns,
  vocabulary,
  line,
  children,
}: {
  total: TableGroup;
  columns: readonly DrawnColumn[];
  vocabulary: Vocabulary;
  line: number;
  children: ReactNode;
}) {
  return (
    <div role="row" aria-rowindex={line} className="lines-row lines-foot">
      <span role="gridcell" className="lines-cell lines-group-name">
        <b>{counted(total.count, "item")}</b>
        {children}
      </span>
      <Sums columns={columns} sums={total.sums} vocabulary={vocabulary} />
    </div>
  );
}
