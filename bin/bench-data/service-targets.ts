import { HOUR } from "@/core/calendar/instant";
import { OFFICE_HOURS } from "@/core/calendar/working-time";
import { targetState } from "@/core/intake/service-target";
import type { Timed } from "./rules";

const NOW = Date.UTC(2026, 5, 1, 12);
export const PROMISES = 20_000;

/**
 * Promises of a year, a third of them with a question in between, in working hours with holidays
 * and across both changes of clock; yardstick: the same in elapsed time.
 */
export function promises(): Timed {
  const calendar = {
    ...OFFICE_HOURS,
    holidays: ["2025-12-25", "2025-12-26", "2026-01-01", "2026-04-03", "2026-04-06"].map(
      (date) => ({ date, name: "closed" }),
    ),
  };
  const asked = Array.from({ length: PROMISES }, (_, i) => {
    const since = NOW - (i % 8_760) * HOUR;
    return {
      since,
      metAt: i % 4 === 0 ? null : since + (i % 90) * HOUR,
      paused: i % 3 === 0 ? [{ from: since + HOUR, to: since + 30 * HOUR }] : [],
    };
  });
  const all = (working: boolean) => {
    const began = performance.now();
    for (const promise of asked)
      targetState(16, working, promise, { calendar, zone: "Europe/London", now: NOW });
    return performance.now() - began;
  };
  all(true);
  all(false);
  return { measured: Math.min(all(true), all(true)), yardstick: Math.min(all(false), all(false)) };
}
