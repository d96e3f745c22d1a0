import { counted } from "@/core/formats/counted";
import { DAY, HOUR, MINUTE, type Instant } from "@/core/calendar/instant";

/** Time passed as people say it: "just now", "12 minutes", "3 hours", "5 days". */
export function span(ms: number): string {
  const n = (value: number, unit: string) => `${value} ${unit}${value === 1 ? "" : "s"}`;
  if (ms < 90_000) return "just now";
  if (ms < 90 * MINUTE) return n(Math.round(ms / MINUTE), "minute");
  if (ms < 36 * HOUR) return n(Math.round(ms / HOUR), "hour");
  return n(Math.round(ms / DAY), "day");
}

export const ago = (at: Instant, now: Instant) =>
  now - at < 90_000 ? "just now" : `${span(now - at)} ago`;

/** "Mon 23 Nov 2026, 14:05" in a zone. */
export function exact(at: Instant, zone: string): string {
  return new Intl.DateTimeFormat("en-GB", {
    timeZone: zone,
    weekday: "short",
    day: "numeric",
    month: "short",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
  }).format(at);
}

export { shortDate } from "@/core/calendar/day-words";

export const daysWords = (n: number) => counted(n, "day");

/** "2.4 d"; what would be none to a tenth of a day, "12 min". */
export const shortDays = (n: number) =>
  n === 0 || n >= 0.05 ? `${n.toFixed(1)} d` : `${Math.round((n * DAY) / MINUTE)} min`;

export const percent = (share: number | null) =>
  share === null ? "–" : `${Math.round(share * 100)} %`;
