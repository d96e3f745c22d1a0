"use client";
import { useState } from "react";
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
  /** Whether everything that is shown is meant, also what is not here yet. */
  all: boolean;
}

const NONE: Chosen = { rows: new Map(), from: null, all: false };

/** The rows that are chosen, each with what it said then, and what is done with them. */
export function useChosen(
  rowAt: (row: number) => TableRow | undefined,
  columns: readonly DrawnColumn[],
  vocabulary: Vocabulary,
) {
  const [{ rows, from, all }, setChosen] = useState(NONE);
  const turn = (at: number) => {
    const row = rowAt(at);
    if (!row) return;
    const next = new Map(rows);
    if (!next.delete(row.card.id)) next.set(row.card.id, row);
    setChosen({ rows: next, from: at, all: false });
  };
  /** Everything from one place to another. */
  const run = (begin: number, at: number) => {
    const next = new Map(rows);
    for (let i = Math.min(begin, at); i <= Math.max(begin, at); i++) {
      const row = rowAt(i);
      if (row) next.set(row.card.id, row);
    }
    setChosen({ rows: next, from: begin, all: false });
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
    has: (id: string) => all || rows.has(id),
    turn,
    run,
    /** Everything from the row that was turned last to another. */
    runTo: (at: number) => run(from ?? at, at),
    all,
    /** Everything that is shown, of which these rows are here. */
    takeAll: (here: readonly TableRow[]) =>
      setChosen({ rows: new Map(here.map((row) => [row.card.id, row])), from: null, all: true }),
    drop: () => setChosen(NONE),
    copy,
  };
}

export type ChosenHandle = ReturnType<typeof useChosen>;
