import { sql, type AnyColumn, type Query, type SQL } from "drizzle-orm";
import { PgDialect } from "drizzle-orm/pg-core";
import { database, type Reader } from "./connection";

/*
 * Statements with a name: they are built once a process, and the database parses and plans them
 * once a connection. For what is done so often that this is felt: the way of a move.
 */

/** A statement of the query builder that was given a name, as far as it matters here. */
interface Prepared<T> {
  execute: (values?: Record<string, unknown>) => Promise<T>;
}

/**
 * A statement of the query builder, with `sql.placeholder`s where values go.
 * @param name says what it does; no two statements have the same
 */
export function namedQuery<T>(
  name: string,
  build: (reader: Reader) => { prepare: (name: string) => Prepared<T> },
): (reader: Reader, values: Record<string, unknown>) => Promise<T> {
  let built: Prepared<T> | undefined;
  return (reader, values) => {
    built ??= build(database()).prepare(name);
    // The same statement on the connection of the caller's transaction.
    const own = Object.create(built, { client: { value: clientOf(reader) } }) as Prepared<T>;
    return own.execute(values);
  };
}

/** A statement in SQL, with $1, $2 … where values go; its rows have the columns that it names. */
export function namedSql<Row = never>(
  name: string,
  text: string,
): (reader: Reader, values: unknown[]) => Promise<Row[]> {
  return (reader, values) => rowsOf(reader, name, { sql: text, params: values });
}

async function rowsOf<Row>(
  reader: Reader,
  name: string,
  query: Query,
  values?: Record<string, unknown>,
): Promise<Row[]> {
  const prepared = reader._.session.prepareQuery(query, undefined, name, false);
  return ((await prepared.execute(values)) as { rows: Row[] }).rows;
}

/** The same from a template of the query builder, with `sql.placeholder`s where values go. */
export function namedTemplate<Row>(
  name: string,
  template: SQL,
): (reader: Reader, values: Record<string, unknown>) => Promise<Row[]> {
  const query = new PgDialect().sqlToQuery(template);
  return (reader, values) => rowsOf(reader, name, query, values);
}

/**
 * An array that is given to a statement with a name, to be compared with by `= any(...)`. Where its
 * place stands there directly, the database counts what is given and plans anew for as many, every
 * time: that takes longer than the statement itself.
 * @example namedSql("some states", `select * from state where id = any(${givenArray("$1::text[]")})`)
 */
export const givenArray = (place: string): string => `array(select unnest(${place}))`;

/** That a column is among what is given to a statement with a name. */
export const amongGiven = (column: AnyColumn | SQL, name: string, type: "uuid" | "text"): SQL =>
  sql`${column} = any(array(select unnest(${sql.placeholder(name)}::${sql.raw(type)}[])))`;

const clientOf = (reader: Reader): unknown =>
  (reader._.session as unknown as { client: unknown }).client;
