"use client";
import { useRef, useState } from "react";
import type { Figures } from "@/core/flow/summary";
import type { TableView } from "@/core/item/list/table";
import type { Look } from "@/core/view/look";
import { useFigures } from "@/ui/flow/use-figures";
import { KeysHelp } from "@/ui/kit/keys-help";
import { Note } from "@/ui/kit/note";
import { problemOf } from "@/ui/kit/request";
import { useScreenKeys } from "@/ui/kit/use-screen-keys";
import { CountedPanel } from "@/ui/view/counted-panel";
import { LookHead } from "@/ui/view/look-head";
import type { LookHandle } from "@/ui/view/use-look";
import { ExportButton } from "./export-button";
import { TableGrid } from "./table-grid";
import { TableWords } from "./table-words";
import { TABLE_KEYS, TABLE_OFFERED } from "./table-keys";
import { useTable } from "./use-table";

/** Items as rows and columns: grouped, summed up, changed where they stand. */
export function TableScreen({
  handle,
  initial,
  initialSummary,
  asked,
}: {
  handle: LookHandle;
  initial: TableView;
  initialSummary: Figures;
  /** The look that the first rows came for. */
  asked: Look;
}) {
  const { projectKey, look, showAll } = handle;
  const table = useTable(projectKey, look, { initial, asked });
  const summary = useFigures(projectKey, initialSummary);
  const [help, setHelp] = useState(false);
  const field = useRef<HTMLInputElement>(null);
  useScreenKeys(
    {
      "/": () => field.current?.focus(),
      c: showAll,
      "?": () => setHelp(true),
    },
    { part: "table", words: TABLE_OFFERED },
  );
  const { head } = table.view;
  return (
    <div className="flex h-full flex-col">
      <LookHead
        handle={handle}
        shown={head?.total.count ?? 0}
        total={head?.of ?? 0}
        busy={table.waiting}
        filterField={field}
        words={<TableWords handle={handle} />}
      >
        <ExportButton handle={handle} total={head?.total.count ?? 0} />
      </LookHead>
      {table.error && (
        <Note kind="problem">
          {problemOf(table.error).sentence} {problemOf(table.error).help}
        </Note>
      )}
      <div className="flex min-h-0 flex-1">
        <CountedPanel handle={handle} />
        <TableGrid handle={handle} table={table} summary={summary} />
      </div>
      <KeysHelp
        open={help}
        onClose={() => setHelp(false)}
        title="Keys of the table"
        keys={TABLE_KEYS}
      />
    </div>
  );
}
