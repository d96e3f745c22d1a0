"use client";
import { Download } from "lucide-react";
import { counted } from "@/core/formats/counted";
import type { TextEncoding } from "@/core/formats/decode-text";
import { leftOutTable, type Table } from "@/core/formats/report-table";
import type { ItemColumn, ItemMatch, NamedColumn } from "@/core/item/csv/columns";
import type { TableGround } from "@/core/item/csv/ground";
import type { ReadItems } from "@/core/item/csv/read-items";
import { Button } from "@/ui/kit/button";
import { saveFile } from "@/ui/kit/save-file";
import { Select } from "@/ui/kit/select";

/** So many items are looked at before all are brought in. */
const SHOWN = 8;

/** Which column is what, what would come of it, and which rows are left out. */
export function ImportOutlook({
  table,
  encoding,
  columns,
  match,
  onMatch,
  read,
  ground,
  onRun,
}: {
  table: Table;
  encoding: TextEncoding;
  columns: readonly NamedColumn[];
  match: ItemMatch;
  onMatch: (match: ItemMatch) => void;
  read: ReadItems;
  ground: TableGround;
  onRun: () => void;
}) {
  const { items, problems, notes } = read;
  return (
    <section aria-label="What would come of it" className="mt-4 flex max-w-[1100px] flex-col gap-4">
      <Columns table={table} columns={columns} match={match} onMatch={onMatch} />
      <p>
        <b>{items.length}</b> {items.length === 1 ? "item" : "items"} would be made
        {problems.length > 0 && (
          <>
            , <b className="text-alarm">{problems.length}</b>{" "}
            {problems.length === 1 ? "row" : "rows"} left out
          </>
        )}
        . The file is read as {encoding}
        {encoding === "Windows-1252" && ": look whether the letters are right"}.
      </p>
      {notes.map((note) => (
        <p key={note} className="text-[13px] text-signal-ink">
          {note}
        </p>
      ))}
      {items.length > 0 && <First read={read} columns={columns} match={match} ground={ground} />}
      {problems.length > 0 && (
        <>
          <ul
            aria-label="Rows that are left out"
            className="max-h-40 overflow-y-auto border-l-[3px] border-alarm pl-3 text-[13px]"
          >
            {problems.map((one) => (
              <li key={one.row}>
                Line {one.row}: {one.sentence}
              </li>
            ))}
          </ul>
          <Button
            small
            className="self-start"
            onClick={() =>
              saveFile("left-out.csv", ["\ufeff", leftOutTable(table, problems)], "text/csv")
            }
          >
            <Download size={14} aria-hidden="true" /> Save the rows that are left out as a file
          </Button>
        </>
      )}
      <Button look="accent" className="self-start" disabled={items.length === 0} onClick={onRun}>
        Make {counted(items.length, "item")}
      </Button>
    </section>
  );
}

const NOTHING = "";

/** Each column of the file, with what it says. */
function Columns({
  table,
  columns,
  match,
  onMatch,
}: {
  table: Table;
  columns: readonly NamedColumn[];
  match: ItemMatch;
  onMatch: (match: ItemMatch) => void;
}) {
  const saidBy = (at: number) =>
    (Object.keys(match) as ItemColumn[]).find((id) => match[id] === at) ?? NOTHING;
  const choose = (at: number, wanted: string) => {
    const others = Object.entries(match).filter(([id, i]) => i !== at && id !== wanted);
    const next = Object.fromEntries(others) as ItemMatch;
    onMatch(wanted === NOTHING ? next : { ...next, [wanted]: at });
  };
  return (
    <table className="text-[13px]">
      <thead className="text-left text-[12px] text-ink-soft">
        <tr>
          <th className="pr-6 font-normal">Column of the file</th>
          <th className="pr-6 font-normal">says</th>
          <th className="font-normal">as in its first rows</th>
        </tr>
      </thead>
      <tbody>
        {table.header.map((name, at) => (
          <tr key={`${at} ${name}`} className="border-t border-line">
            <td className="pr-6 font-semibold">{name || `column ${at + 1}`}</td>
            <td className="w-[210px] py-0.5 pr-6">
              <Select
                label={`What ${name || `column ${at + 1}`} says`}
                value={saidBy(at)}
                options={[
                  { value: NOTHING, label: "nothing, left out" },
                  ...columns.map(({ id, label }) => ({ value: id, label })),
                ]}
                onChange={(wanted) => choose(at, wanted)}
              />
            </td>
            <td className="max-w-[420px] truncate text-ink-soft">
              {table.rows
                .slice(0, 3)
                .map((cells) => cells[at]?.trim())
                .filter(Boolean)
                .join(" · ")}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The first items as they would be. */
function First({
  read: { items },
  columns,
  match,
  ground,
}: {
  read: ReadItems;
  columns: readonly NamedColumn[];
  match: ItemMatch;
  ground: TableGround;
}) {
  const typeName = (id: string) => ground.types.find((type) => type.id === id)?.name ?? id;
  const taken = columns.filter(
    ({ id }) => match[id] !== undefined && !["title", "typeId"].includes(id),
  );
  return (
    <div>
      <table className="w-full text-[13px]">
        <thead className="text-left text-[12px] text-ink-soft">
          <tr>
            <th className="w-14 font-normal">Line</th>
            <th className="w-28 font-normal">Type</th>
            <th className="font-normal">Title</th>
          </tr>
        </thead>
        <tbody>
          {items.slice(0, SHOWN).map(({ row, item }) => (
            <tr key={row} className="border-t border-line">
              <td className="tabular-nums text-ink-soft">{row}</td>
              <td>{typeName(item.fields.typeId)}</td>
              <td className="max-w-[520px] truncate pr-3">{item.fields.title}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-[13px] text-ink-soft">
        {items.length > SHOWN && `and ${items.length - SHOWN} more; `}
        {taken.length > 0
          ? `each with ${taken.map(({ label }) => label).join(", ")} as far as its row says it`
          : "each with nothing but its title"}
      </p>
    </div>
  );
}
