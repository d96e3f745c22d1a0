"use client";
import { Download } from "lucide-react";
import { counted } from "@/core/formats/counted";
import {
  COLUMN_WORDS,
  type ColumnMatch,
  leftOutTable,
  REPORT_COLUMNS,
  type reportsOf,
  type RowProblem,
  type Table,
} from "@/core/formats/report-table";
import { Button } from "@/ui/kit/button";
import { Field } from "@/ui/kit/field";
import { saveFile } from "@/ui/kit/save-file";
import { Select } from "@/ui/kit/select";

/** So many are looked at before all are taken in. */
const SHOWN = 8;

/** Which column is what, and what would come of it. */
export function ImportPlan({
  table,
  match,
  onMatch,
  reports,
  problems,
  onRun,
}: {
  table: Table;
  match: ColumnMatch;
  onMatch: (match: ColumnMatch) => void;
  reports: ReturnType<typeof reportsOf>["reports"];
  problems: readonly RowProblem[];
  onRun: () => void;
}) {
  return (
    <section aria-label="What would come of it" className="mt-4 flex max-w-[1000px] flex-col gap-4">
      <div className="grid grid-cols-3 gap-3">
        {REPORT_COLUMNS.map((column) => (
          <Field key={column} label={COLUMN_WORDS[column]}>
            <Select
              value={String(match[column] ?? "")}
              options={[
                { value: "", label: "no column" },
                ...table.header.map((h, i) => ({
                  value: String(i),
                  label: h || `column ${i + 1}`,
                })),
              ]}
              onChange={(next) =>
                onMatch({
                  ...match,
                  [column]: next === "" ? null : Number(next),
                })
              }
            />
          </Field>
        ))}
      </div>
      {match.title === null ? (
        <p className="text-alarm">Choose the column that says it in a few words.</p>
      ) : (
        <Outlook table={table} reports={reports} problems={problems} onRun={onRun} />
      )}
    </section>
  );
}

/** The first reports as they would come in, and the rows that would not. */
function Outlook({
  table,
  reports,
  problems,
  onRun,
}: {
  table: Table;
  reports: ReturnType<typeof reportsOf>["reports"];
  problems: readonly RowProblem[];
  onRun: () => void;
}) {
  return (
    <>
      <p>
        <b>{reports.length}</b> {reports.length === 1 ? "report" : "reports"} would come into the
        queue
        {problems.length > 0 && (
          <>
            , <b className="text-alarm">{problems.length}</b>{" "}
            {problems.length === 1 ? "row" : "rows"} would not
          </>
        )}
        .
      </p>
      <table className="w-full text-[13px]">
        <thead className="text-left text-[12px] text-ink-soft">
          <tr>
            <th className="w-12 font-normal">Line</th>
            {REPORT_COLUMNS.map((c) => (
              <th key={c} className="font-normal">
                {COLUMN_WORDS[c]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {reports.slice(0, SHOWN).map(({ row, report }) => (
            <tr key={row} className="border-t border-line">
              <td className="tabular-nums text-ink-soft">{row}</td>
              {REPORT_COLUMNS.map((c) => (
                <td key={c} className="max-w-[220px] truncate pr-3">
                  {report[c]}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {reports.length > SHOWN && (
        <p className="text-[13px] text-ink-soft">and {reports.length - SHOWN} more</p>
      )}
      {problems.length > 0 && (
        <Button
          small
          className="self-start"
          onClick={() =>
            saveFile("left-out.csv", ["\ufeff", leftOutTable(table, problems)], "text/csv")
          }
        >
          <Download size={14} aria-hidden="true" /> Save the rows that are left out as a file
        </Button>
      )}
      {problems.length > 0 && (
        <ul
          aria-label="Rows that are left out"
          className="max-h-40 overflow-y-auto border-l-[3px] border-alarm pl-3 text-[13px]"
        >
          {problems.map((p) => (
            <li key={p.row}>
              Line {p.row}: {p.sentence}
            </li>
          ))}
        </ul>
      )}
      <Button look="accent" className="self-start" disabled={reports.length === 0} onClick={onRun}>
        Import {counted(reports.length, "report")}
      </Button>
    </>
  );
}
