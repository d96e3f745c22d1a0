import { sql } from "drizzle-orm";
import { database } from "@/db/connection";
import { workerPulse } from "@/db/schema";

export interface Health {
  ok: boolean;
  database: "up" | "down";
  worker: "up" | "late" | "unknown";
  /**
   * Names the start of the product that answers, so that nobody takes another one's answer for it.
   */
  instance: string | null;
}

/** The worker writes its pulse every few seconds; after this it counts as late. */
const WORKER_LATE_MS = 15_000;

/** Whether the database answers at this moment. Never throws. */
export async function databaseAnswers(): Promise<boolean> {
  try {
    await database().execute(sql`select 1`);
    return true;
  } catch {
    return false;
  }
}

/** The state of what the application needs. Never throws. */
export async function health(): Promise<Health> {
  const instance = process.env.ZIGZAG_INSTANCE ?? null;
  try {
    await database().execute(sql`select 1`);
    const [row] = await database().select().from(workerPulse);
    const worker = row && Date.now() - row.at < WORKER_LATE_MS ? "up" : "late";
    return { ok: worker === "up", database: "up", worker, instance };
  } catch {
    return { ok: false, database: "down", worker: "unknown", instance };
  }
}
