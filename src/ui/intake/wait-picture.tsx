"use client";

import type { QueueRow } from "@/core/intake/desk-view";
import { pressure, waitPicture, type WaitBar } from "@/core/intake/wait-picture";

const HEIGHT_PX = 44;
const TALLEST_MARK_PX = 9;

/** By how much its promise presses: missed, at risk, not. */
const LOOKS = ["border-alarm bg-alarm", "border-signal bg-signal", "border-ink-soft"];

const days = ({ fromDays, toDays }: WaitBar) =>
  fromDays === toDays
    ? fromDays === 0
      ? "less than a day"
      : `${fromDays} ${fromDays === 1 ? "day" : "days"}`
    : `${fromDays} to ${toDays} days`;

function words(bar: WaitBar): string {
  const count = (of: number) => bar.rows.filter((row) => pressure(row) === of).length;
  const [missed, atRisk] = [count(0), count(1)];
  return [
    `${days(bar)}: ${bar.rows.length} ${bar.rows.length === 1 ? "waits" : "wait"}`,
    missed > 0 && `${missed} past ${missed === 1 ? "its" : "their"} promise`,
    atRisk > 0 && `${atRisk} near ${atRisk === 1 ? "its" : "their"} promise`,
  ]
    .filter(Boolean)
    .join(", ");
}

/** The report that a click on a bar opens: its most pressing, or what follows the open one. */
const opened = ({ rows }: WaitBar, openId: string | null): QueueRow =>
  rows[(rows.findIndex((row) => row.id === openId) + 1) % rows.length];

/** How much waits how long, a mark a report; what a promise presses on is filled. */
export function WaitPicture({
  queue,
  now,
  openId,
  onOpen,
}: {
  queue: readonly QueueRow[];
  now: number;
  openId: string | null;
  onOpen: (id: string) => void;
}) {
  const bars = waitPicture(queue, now);
  if (bars.length < 2) return null;
  const most = Math.max(...bars.map((bar) => bar.rows.length));
  const tall = Math.min(TALLEST_MARK_PX, HEIGHT_PX / most);
  return (
    <div role="group" aria-label="What waits how long" className="border-b border-line px-3 pt-2">
      <div className="flex items-end gap-px" style={{ height: HEIGHT_PX }}>
        {bars.map((bar) => (
          <button
            key={bar.fromDays}
            type="button"
            disabled={bar.rows.length === 0}
            aria-label={words(bar)}
            title={words(bar)}
            onClick={() => onOpen(opened(bar, openId).id)}
            className="flex h-full min-w-0 flex-1 flex-col-reverse px-px enabled:hover:bg-sheet"
          >
            {bar.rows.map((row) => (
              <span
                key={row.id}
                className={`w-full border ${tall > 4 ? "mt-px" : ""} ${LOOKS[pressure(row)]} ${row.id === openId ? "outline-2 outline-accent" : ""}`}
                style={{ height: tall - (tall > 4 ? 1 : 0) }}
              />
            ))}
          </button>
        ))}
      </div>
      <p className="flex justify-between border-t border-line-strong pt-0.5 pb-1 text-[11.5px] text-ink-soft">
        <span>{days(bars[0])}</span>
        <span>today</span>
      </p>
    </div>
  );
}
