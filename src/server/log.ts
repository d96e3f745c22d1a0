import { pino } from "pino";

/** Structured log lines on standard output. Only ids and counts go into it: no names, addresses or texts of people. */
export const log = pino({
  level: process.env.LOG_LEVEL ?? "info",
  base: { process: process.env.ZIGZAG_PROCESS ?? "app" },
  timestamp: pino.stdTimeFunctions.isoTime,
});
