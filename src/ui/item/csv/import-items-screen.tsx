"use client";
import { Download } from "lucide-react";
import { useMemo, useState } from "react";
import { v7 as newId } from "uuid";
import { addressOf } from "@/core/contract/contract";
import { decodeText, type TextEncoding } from "@/core/formats/decode-text";
import { readTable, type Table } from "@/core/formats/report-table";
import { itemColumns, matchItemColumns, type ItemMatch } from "@/core/item/csv/columns";
import { itemTableContract } from "@/core/item/csv/contract";
import type { TableGround } from "@/core/item/csv/ground";
import { itemsOfTable } from "@/core/item/csv/read-items";
import { FilePick } from "@/ui/kit/file-pick";
import { Field } from "@/ui/kit/field";
import { Note } from "@/ui/kit/note";
import { ImportEnd, ImportRunning } from "./import-end";
import { ImportOutlook } from "./import-outlook";
import { useImport } from "./use-import";

interface Chosen {
  name: string;
  table: Table;
  encoding: TextEncoding;
}

/** Items out of a table and into one: columns are matched, and all that would come of it is seen first. */
export function ImportItemsScreen({
  projectKey,
  ground,
  mayBring,
}: {
  projectKey: string;
  ground: TableGround;
  mayBring: boolean;
}) {
  const handle = useImport(projectKey);
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const [match, setMatch] = useState<ItemMatch>({});
  const [trouble, setTrouble] = useState("");
  const columns = useMemo(() => itemColumns(ground.own), [ground]);
  const read = useMemo(
    () => (chosen ? itemsOfTable(chosen.table, match, { ground, newId }) : null),
    [chosen, match, ground],
  );
  const choose = async (file: File) => {
    setTrouble("");
    try {
      const { text, encoding } = decodeText(new Uint8Array(await file.arrayBuffer()));
      const table = readTable(text);
      setChosen({ name: file.name, table, encoding });
      setMatch(matchItemColumns(table.header, columns));
      handle.again();
    } catch (error) {
      setChosen(null);
      setTrouble((error as Error).message);
    }
  };
  const { stage } = handle;
  return (
    <div className="h-full overflow-y-auto px-4 py-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-[18px]">Items in and out</h1>
        <a
          className="link inline-flex min-h-6 items-center gap-1.5 text-[13px]"
          href={addressOf(itemTableContract.file, { params: { key: projectKey } })}
          download
        >
          <Download size={14} aria-hidden="true" />
          All items as a table (.csv)
        </a>
      </div>
      <p className="mb-3 max-w-[74ch] text-[13px] text-ink-soft">
        A table of comma-separated values whose first line names the columns. What is written here
        is read again with all fields, what items stand under, and what they wait for. Nothing is
        stored before you have seen what would come of it.
      </p>
      {!mayBring && (
        <Note kind="look">
          You may read this project, and not add to it: only the table is for you.
        </Note>
      )}
      {mayBring && stage.kind === "choose" && (
        <Field label="The file">
          <FilePick
            accept=".csv,.tsv,.txt,text/csv"
            onFiles={([file]) => file && void choose(file)}
          />
        </Field>
      )}
      {trouble && (
        <Note kind="problem" className="mt-2">
          <b>{trouble}</b> Nothing was stored.
        </Note>
      )}
      {chosen && read && stage.kind === "choose" && (
        <ImportOutlook
          table={chosen.table}
          encoding={chosen.encoding}
          columns={columns}
          match={match}
          onMatch={setMatch}
          read={read}
          ground={ground}
          onRun={() => void handle.run(read.items)}
        />
      )}
      {stage.kind === "running" && <ImportRunning stage={stage} onStop={handle.stop} />}
      {(stage.kind === "done" || stage.kind === "taken back") && (
        <ImportEnd
          stage={stage}
          projectKey={projectKey}
          onTakeBack={() => void handle.takeBack()}
          onAgain={() => {
            setChosen(null);
            handle.again();
          }}
        />
      )}
    </div>
  );
}
