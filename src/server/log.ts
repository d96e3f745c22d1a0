import { pino } from "pino";
import { sqlState } from "@/db/connection";

/**
 * Structured log lines on standard output. Only ids and counts go into it: no names, addresses or
 * texts of people.
 */
export const log = pino({
  level: process.env.LOG_LEVEL ?? "info",
  base: { process: process.env.ZIGZAG_PROCESS ?? "app" },
  timestamp: pino.stdTimeFunctions.isoTime,
});

/**
 * What a log says of an error: its kind, the database's or the system's code, and where it came up.
 * Never its message, which may hold what somebody wrote.
 */
export function traced(error: unknown): { error: string; code: string | null; at: string | null } {
  if (!(error instanceof Error)) return { error: "not an error", code: null, at: null };
  const cause = error.cause instanceof Error ? error.cause : error;
  const at = (cause.stack ?? "")
    .split("\n")
    .find(
      (line) => /^\s+at /.test(line) && !line.includes("node_modules") && !line.includes("node:"),
    );
  return { error: cause.name, code: sqlState(error) ?? null, at: at?.trim().slice(0, 200) ?? null };
}
