"use client";
import { useEffect, useState } from "react";
import { MINUTE } from "@/core/calendar/instant";

const two = (n: number): string => String(n).padStart(2, "0");

/** How long a walk has gone on, of how long it is meant to. */
export function WalkClock({ startedAt, minutes }: { startedAt: number; minutes: number }) {
  const [now, setNow] = useState(startedAt);
  useEffect(() => {
    const tell = () => setNow(Date.now());
    const first = setTimeout(tell, 0);
    const timer = setInterval(tell, 1_000);
    return () => {
      clearTimeout(first);
      clearInterval(timer);
    };
  }, []);
  const passed = Math.max(0, now - startedAt);
  const share = Math.min(1, passed / (minutes * MINUTE));
  const over = passed > minutes * MINUTE;
  return (
    <div className="flex items-center gap-3" role="timer" aria-label="Time of the walk">
      <span className={over ? "font-semibold text-signal-ink" : ""}>
        <b className="figures">
          {Math.floor(passed / MINUTE)}:{two(Math.floor((passed % MINUTE) / 1_000))}
        </b>{" "}
        of {minutes} minutes
      </span>
      <span className="block h-2 w-[140px] bg-well" aria-hidden="true">
        <span
          className="block h-full"
          style={{
            width: `${share * 100}%`,
            background: over ? "var(--signal)" : "var(--accent)",
          }}
        />
      </span>
    </div>
  );
}
