import { drizzle, type NodePgDatabase } from "drizzle-orm/node-postgres";
import { Pool } from "pg";

export type Database = NodePgDatabase;
export type Transaction = Parameters<Parameters<Database["transaction"]>[0]>[0];
/** Either: what reads may run on. */
export type Reader = Database | Transaction;

// Next bundles routes apart from each other; one pool for the process is kept where all of them
// find it.
const shared = globalThis as typeof globalThis & { zigzagPool?: Pool; zigzagDatabase?: Database };

export function databaseUrl(): string {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error("DATABASE_URL is not set; bin/start sets it");
  return url;
}

export function pool(): Pool {
  if (!shared.zigzagPool) {
    shared.zigzagPool = new Pool({
      connectionString: databaseUrl(),
      max: Number(process.env.DATABASE_POOL ?? 20),
      connectionTimeoutMillis: 10_000,
      // No question and no change may keep a connection, or a lock, for long.
      statement_timeout: Number(process.env.DATABASE_STATEMENT_MS ?? 15_000),
      idle_in_transaction_session_timeout: 60_000,
      // Compiling a long condition takes longer than asking it of some thousand items.
      options: "-c jit=off -c work_mem=16MB",
    });
    // An idle connection that breaks (the server was restarted) is replaced by the next query.
    shared.zigzagPool.on("error", () => {});
    // The same for one that is in use: its query fails and says so; the process must not end over
    // it.
    shared.zigzagPool.on("connect", (client) => client.on("error", () => {}));
  }
  return shared.zigzagPool;
}

export function database(): Database {
  // Without the tables: every transaction would make a builder of its own for each of them.
  shared.zigzagDatabase ??= drizzle(pool());
  return shared.zigzagDatabase;
}

/** Lets go of all connections; queries in hand finish first. */
export async function closeDatabase(): Promise<void> {
  const { zigzagPool } = shared;
  shared.zigzagPool = undefined;
  shared.zigzagDatabase = undefined;
  await zigzagPool?.end();
}

/** SQLSTATE of a failed query, through the wrappers of Drizzle; undefined for other errors. */
export function sqlState(error: unknown): string | undefined {
  for (let e = error; e && typeof e === "object"; e = (e as { cause?: unknown }).cause) {
    const { code } = e as { code?: unknown };
    if (typeof code === "string") return code;
  }
  return undefined;
}

const UNREACHABLE = /^(ECONNREFUSED|ECONNRESET|EPIPE|ENOENT|57P0[123]|08\d{3}|53300)$/;

/**
 * Whether an error means that the database cannot be reached now, so that trying again later makes
 * sense.
 */
export function isUnreachable(error: unknown): boolean {
  const code = sqlState(error);
  if (code !== undefined) return UNREACHABLE.test(code);
  for (let e = error; e instanceof Error; e = e.cause)
    if (
      /Connection terminated|timeout exceeded when trying to connect|Cannot use a pool after calling end/.test(
        e.message,
      )
    )
      return true;
  return false;
}

/** Whether the database stopped a statement because it took too long. */
export const tookTooLong = (error: unknown): boolean => sqlState(error) === "57014";

const LOST_RACE = new Set(["40001", "40P01"]);

/** Whether the database broke a deadlock or a serialisation conflict: trying again may do. */
export const isLostRace = (error: unknown): boolean => LOST_RACE.has(sqlState(error) ?? "");

/** Reads several things as they are in one moment, whatever others write meanwhile. */
export const inOneMoment = <T>(read: (reader: Reader) => Promise<T>): Promise<T> =>
  database().transaction(read, { isolationLevel: "repeatable read", accessMode: "read only" });

/**
 * Runs a transaction, again when the database broke a deadlock or a serialisation conflict at its
 * cost.
 */
export async function transact<T>(work: (tx: Transaction) => Promise<T>, attempts = 4): Promise<T> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await database().transaction(work);
    } catch (error) {
      if (attempt >= attempts || !isLostRace(error)) throw error;
    }
  }
}
