"use client";
import { useState } from "react";
import { tallyOf } from "@/core/board/tally";
import { EVERY_ITEM, type Condition } from "@/core/condition/condition";
import type { FactName } from "@/core/condition/facts";
import { amountOf } from "@/core/item/amount";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { counted } from "@/core/formats/counted";
import { writeTabs } from "@/core/formats/csv";
import { cellText, type TableRow } from "@/core/item/list/table";
import { copyText } from "@/ui/kit/copy-text";
import type { DrawnColumn } from "./columns";

/** Rows that somebody has chosen, and the place of the one that was turned last. */
interface Chosen {
  rows: ReadonlyMap<string, TableRow>;
  from: number | null;
  /** All that is meant without being named, also what is not here yet; null: the rows alone. */
  wide: Wide | null;
}

/** Everything that is shown and of which something holds. */
interface Wide {
  of: Condition;
  /** Of one group alone: which, and how many that are. */
  group: { at: number; count: number } | null;
}

const NONE: Chosen = { rows: new Map(), from: null, wide: null };

/** The rows that are chosen, each with what it said then, and what is done with them. */
export function useChosen(
  rowAt: (row: number) => TableRow | undefined,
  columns: readonly DrawnColumn[],
  vocabulary: Vocabulary,
) {
  const [{ rows, from, wide }, setChosen] = useState(NONE);
  const turn = (at: number) => {
    const row = rowAt(at);
    if (!row) return;
    const next = new Map(rows);
    if (!next.delete(row.card.id)) next.set(row.card.id, row);
    setChosen({ rows: next, from: at, wide: null });
  };
  /** Everything from one place to another. */
  const run = (begin: number, at: number) => {
    const next = new Map(rows);
    for (let i = Math.min(begin, at); i <= Math.max(begin, at); i++) {
      const row = rowAt(i);
      if (row) next.set(row.card.id, row);
    }
    setChosen({ rows: next, from: begin, wide: null });
  };
  const textOf = ({ card, values }: TableRow): string[] => [
    card.key,
    card.title,
    ...columns.map(({ fact }, i) => cellText(fact, values[i], vocabulary)),
  ];
  /** What is chosen, or without that one row, as text for a spreadsheet. */
  const copy = async (one: TableRow | undefined) => {
    const copied = rows.size > 0 ? [...rows.values()] : one ? [one] : [];
    if (copied.length === 0) return;
    const head = ["key", "title", ...columns.map(({ label }) => label)];
    const text = writeTabs([head, ...copied.map(textOf)]);
    await copyText(text, `${counted(copied.length, "row")} copied.`);
  };
  return {
    rows,
    from,
    /** Whether a row is chosen that stands in a group. */
    has: (id: string, group: number) =>
      rows.has(id) || (wide !== null && (wide.group === null || wide.group.at === group)),
    turn,
    run,
    /** Everything from the row that was turned last to another. */
    runTo: (at: number) => run(from ?? at, at),
    wide,
    /** Everything that is shown. */
    takeAll: () => setChosen({ ...NONE, wide: { of: EVERY_ITEM, group: null } }),
    /** Everything that is shown of a group. */
    takeGroup: (of: Condition, group: { at: number; count: number }) =>
      setChosen({ ...NONE, wide: { of, group } }),
    /** How many rows are chosen, and what they come to. */
    tally: (sum: FactName | null) =>
      tallyOf([...rows.values()], ({ card }) => amountOf(sum, card, vocabulary.own)),
    drop: () => setChosen(NONE),
    copy,
  };
}

export type ChosenHandle = ReturnType<typeof useChosen>;
