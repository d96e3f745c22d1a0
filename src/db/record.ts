import { getTableColumns, type Column } from "drizzle-orm";
import type { PgTable } from "drizzle-orm/pg-core";

/** A row as JSON with the names of the database's columns, for `jsonb_populate_record`. */
export type JsonRecord = Record<string, unknown>;

/**
 * Values of a table's columns as such a record. What is left out, or undefined, is not in it.
 */
export function jsonRecord(table: PgTable, values: object): JsonRecord {
  const columns: Record<string, Column> = getTableColumns(table);
  const record: JsonRecord = {};
  for (const [field, value] of Object.entries(values))
    if (value !== undefined && field in columns)
      record[columns[field].name] = jsonValue(columns[field], value);
  return record;
}

/** JSON stays JSON; instants and the like are written as the database reads them. */
const jsonValue = (column: Column, value: unknown) =>
  value === null || column.columnType === "PgJsonb" ? value : column.mapToDriverValue(value);

/** The names of a table's columns in the database. */
export const columnNames = (table: PgTable): string[] =>
  Object.values(getTableColumns(table)).map((c) => c.name);
