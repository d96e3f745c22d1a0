import type { ReactNode } from "react";

export interface TableColumn<Row> {
  /** The words at its head, with the unit of its figures; empty for actions. */
  head: ReactNode;
  /** Figures stand right, words left. */
  figures?: boolean;
  className?: string;
  cell: (row: Row) => ReactNode;
  /** What the whole column comes to. */
  sum?: ReactNode;
}

/** Rows of the same kind under named columns. */
export function Table<Row>({
  label,
  columns,
  rows,
  keyOf,
  dataOf,
  empty,
  className = "",
}: {
  label: string;
  columns: readonly TableColumn<Row>[];
  rows: readonly Row[];
  keyOf: (row: Row) => string;
  /** What a row is about, for whoever looks for it in the page. */
  dataOf?: (row: Row) => Record<`data-${string}`, string>;
  /** What belongs here when there is no row, and the first step to it. */
  empty?: ReactNode;
  className?: string;
}) {
  const sideOf = (column: TableColumn<Row>) =>
    `${column.figures ? "text-right" : "text-left"} ${column.className ?? ""}`;
  const summed = columns.some((column) => column.sum !== undefined);
  if (rows.length === 0 && empty) return <div className="text-ink-soft">{empty}</div>;
  return (
    <table className={`data-table ${className}`} aria-label={label}>
      <thead>
        <tr>
          {columns.map((column, i) => (
            <th key={i} scope="col" className={sideOf(column)}>
              {column.head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={keyOf(row)} {...dataOf?.(row)}>
            {columns.map((column, i) => (
              <td key={i} className={sideOf(column)}>
                {column.cell(row)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
      {summed && (
        <tfoot>
          <tr>
            {columns.map((column, i) => (
              <td key={i} className={sideOf(column)}>
                {column.sum}
              </td>
            ))}
          </tr>
        </tfoot>
      )}
    </table>
  );
}
