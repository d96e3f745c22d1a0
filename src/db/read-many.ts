import { Column, sql, type GetColumnData, type SQL, type Table } from "drizzle-orm";
import type { Reader } from "./connection";

type Columns = Record<string, Column>;
export type RowOf<C extends Columns> = { [Name in keyof C]: GetColumnData<C[Name], "query"> };

/**
 * Reads rows of a table as the query builder does, where there may be thousands of them: it finds
 * out once for each column how its values are read, and not again in every row.
 * @param columns by the names that they have in the rows
 * @param tail what stands behind the table: conditions, order, limit
 */
export async function readMany<C extends Columns>(
  reader: Reader,
  table: Table,
  columns: C,
  tail: SQL,
): Promise<RowOf<C>[]> {
  const told = Object.entries(columns).map(
    ([name, column]) => sql`${column} as ${sql.identifier(name)}`,
  );
  const { rows } = await reader.execute<Record<string, unknown>>(
    sql`select ${sql.join(told, sql`, `)} from ${table} ${tail}`,
  );
  const read = Object.entries(columns).filter(([, column]) => isRead(column));
  for (const row of rows)
    for (const [name, column] of read)
      if (row[name] !== null) row[name] = column.mapFromDriverValue(row[name]);
  return rows as RowOf<C>[];
}

/** Whether values of a column are something else than what the driver gives. */
const isRead = (column: Column): boolean =>
  column.mapFromDriverValue !== Column.prototype.mapFromDriverValue;
