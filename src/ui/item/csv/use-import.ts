"use client";
import { useRef, useState } from "react";
import { v7 as newId } from "uuid";
import { itemTableContract } from "@/core/item/csv/contract";
import type { RowItem } from "@/core/item/csv/read-items";
import {
  IMPORTED_AT_ONCE,
  type ImportedPart,
  type ImportItemsRequest,
} from "@/core/item/csv/request";
import { tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";

/** A row that did not go as it stands there, with why. */
export interface LeftRow {
  row: number;
  sentence: string;
}

export type ImportStage =
  | { kind: "choose" }
  | { kind: "running"; done: number; of: number }
  | { kind: "done"; made: number; left: LeftRow[]; stopped: boolean }
  | { kind: "taken back"; made: number; gone: number; left: LeftRow[] };

/** What one import made, so that it can be taken back. */
interface Made {
  id: string;
  placedBy: string | null;
  row: number;
}

/** Brings the items of a table in, part by part: first the items, then what waits for what, then where they stand. */
export function useImport(projectKey: string) {
  const [stage, setStage] = useState<ImportStage>({ kind: "choose" });
  const stopped = useRef(false);
  const made = useRef<Made[]>([]);
  const send = (body: ImportItemsRequest): Promise<ImportedPart> =>
    ask(itemTableContract.bring, { params: { key: projectKey }, body });
  const run = async (rows: readonly RowItem[]) => {
    stopped.current = false;
    made.current = [];
    const left: LeftRow[] = [];
    const rowOf = new Map(rows.map(({ item, row }) => [item.id, row]));
    const note = (part: ImportedPart) =>
      left.push(...part.left.map(({ id, sentence }) => ({ row: rowOf.get(id)!, sentence })));
    setStage({ kind: "running", done: 0, of: rows.length });
    try {
      for (const part of partsOf(rows)) {
        if (stopped.current) break;
        const items = part.map(({ item }) => item);
        const answer = await send({ kind: "import", items });
        note(answer);
        const refused = new Set(answer.left.map(({ id }) => id));
        for (const { item, row } of part)
          if (!refused.has(item.id)) made.current.push({ id: item.id, placedBy: null, row });
        setStage({ kind: "running", done: made.current.length, of: rows.length });
      }
      const there = new Set(made.current.map(({ id }) => id));
      const own = rows.filter(({ item }) => there.has(item.id)).map(({ item }) => item);
      const links = own.flatMap(({ id, waitsFor }) =>
        waitsFor.map((one) => ({ id, waitsFor: one })),
      );
      for (const part of partsOf(links)) note(await send({ kind: "link", links: part }));
      const places = own
        .filter(({ state }) => state !== null)
        .map(({ id, state }) => ({ id, to: state!, commandId: newId() }));
      for (const part of partsOf(places)) {
        for (const { id, commandId } of part)
          made.current.find((one) => one.id === id)!.placedBy = commandId;
        note(await send({ kind: "place", places: part }));
      }
    } catch (error) {
      tellProblem(error);
      stopped.current = true;
    }
    setStage({ kind: "done", made: made.current.length, left, stopped: stopped.current });
  };
  const takeBack = async () => {
    const left: LeftRow[] = [];
    let gone = 0;
    const all = made.current.toReversed();
    const rowOf = new Map(all.map(({ id, row }) => [id, row]));
    try {
      // What stands under others goes first.
      for (const part of partsOf(all)) {
        const items = part.map(({ id, placedBy }) => ({ id, placedBy }));
        const answer = await send({ kind: "take back", items });
        gone += answer.done;
        left.push(...answer.left.map(({ id, sentence }) => ({ row: rowOf.get(id)!, sentence })));
      }
    } catch (error) {
      tellProblem(error);
    }
    setStage({ kind: "taken back", made: all.length, gone, left });
  };
  return {
    stage,
    run,
    takeBack,
    stop: () => {
      stopped.current = true;
    },
    again: () => setStage({ kind: "choose" }),
  };
}

export type ImportHandle = ReturnType<typeof useImport>;

function partsOf<T>(all: readonly T[]): T[][] {
  const parts: T[][] = [];
  for (let at = 0; at < all.length; at += IMPORTED_AT_ONCE)
    parts.push(all.slice(at, at + IMPORTED_AT_ONCE));
  return parts;
}
