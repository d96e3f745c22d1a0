import { sql, type SQL } from "drizzle-orm";
import { z } from "zod";
import type { ListKey } from "./key";

/*
 * Where a page of a list ends: what its last row is ordered by. The next page begins behind it,
 * wherever that is by then, also when the row itself is gone.
 */

const cursorSchema = z.array(z.union([z.string().max(10_000), z.number(), z.null()])).max(20);
export type Cursor = z.output<typeof cursorSchema>;

const LONGEST = 20_000;

/** A place in a list as a text for an address. */
export const writeCursor = (cursor: Cursor): string =>
  Buffer.from(JSON.stringify(cursor)).toString("base64url");

/** The place that a text stands for; null where it is none of a list with so many keys. */
export function readCursor(text: string, keys: number): Cursor | null {
  if (text.length > LONGEST) return null;
  try {
    const cursor = cursorSchema.parse(JSON.parse(Buffer.from(text, "base64url").toString()));
    return cursor.length === keys ? cursor : null;
  } catch {
    return null;
  }
}

/** Rows that stand behind a place, by the names of the keys. */
export function behind(keys: readonly ListKey[], cursor: Cursor): SQL {
  const alike = (key: ListKey, i: number): SQL => {
    const value = cursor[i];
    const column = sql.identifier(key.name);
    return value === null ? sql`${column} is null` : sql`${column} = ${typed(key, value)}`;
  };
  const steps = keys.map((key, i) => {
    const before = keys.slice(0, i).map(alike);
    return sql`(${sql.join([...before, later(key, cursor[i])], sql` and `)})`;
  });
  return sql`(${sql.join(steps, sql` or `)})`;
}

const typed = ({ type }: ListKey, value: string | number): SQL =>
  type === "text"
    ? sql`(${value}::text collate "C")`
    : type === "date"
      ? sql`${value}::date`
      : sql`${value}::float8`;

/** Behind a value; nothing is behind none. */
function later(key: ListKey, value: Cursor[number]): SQL {
  if (value === null) return sql`false`;
  const column = sql.identifier(key.name);
  const beyond = key.descending
    ? sql`${column} < ${typed(key, value)}`
    : sql`${column} > ${typed(key, value)}`;
  return sql`(${beyond} or ${column} is null)`;
}
