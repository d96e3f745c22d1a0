"use client";
import { ChevronLeft, ChevronRight } from "lucide-react";
import { useEffect, useRef, useState, type KeyboardEvent } from "react";
import { addDays, addMonths, weekdayOf, weeksOf, type Day } from "@/core/calendar/month";

const WEEKDAYS = ["Mo", "Tu", "We", "Th", "Fr", "Sa", "Su"];

const words = (day: Day, options: Intl.DateTimeFormatOptions): string =>
  new Intl.DateTimeFormat("en-GB", { timeZone: "UTC", ...options }).format(new Date(day));

/** Where a key leads from a day, or nowhere. */
function dayAfterKey(day: Day, key: string): Day | null {
  switch (key) {
    case "ArrowLeft":
      return addDays(day, -1);
    case "ArrowRight":
      return addDays(day, 1);
    case "ArrowUp":
      return addDays(day, -7);
    case "ArrowDown":
      return addDays(day, 7);
    case "PageUp":
      return addMonths(day, -1);
    case "PageDown":
      return addMonths(day, 1);
    case "Home":
      return addDays(day, -weekdayOf(day));
    case "End":
      return addDays(day, 6 - weekdayOf(day));
    default:
      return null;
  }
}

/** One month to choose a day from; arrow keys go by days and weeks, Page Up and Down by months. */
export function MonthGrid({
  chosen,
  today,
  onChoose,
}: {
  chosen: Day | null;
  today: Day;
  onChoose: (day: Day) => void;
}) {
  const [at, setAt] = useState(chosen ?? today);
  const grid = useRef<HTMLTableElement>(null);
  // The focus goes with the keys, and stays on a button that was pressed to turn the page.
  const byKey = useRef(true);
  useEffect(() => {
    if (byKey.current) grid.current?.querySelector<HTMLElement>("[tabindex='0']")?.focus();
    byKey.current = false;
  }, [at]);
  const go = (event: KeyboardEvent) => {
    const next = dayAfterKey(at, event.key);
    if (!next) return;
    event.preventDefault();
    byKey.current = true;
    setAt(next);
  };
  return (
    <div className="w-[224px]">
      <div className="mb-1 flex items-center">
        <MonthStep label="The month before" onStep={() => setAt(addMonths(at, -1))}>
          <ChevronLeft size={16} aria-hidden="true" />
        </MonthStep>
        <p aria-live="polite" className="flex-1 text-center font-display font-semibold">
          {words(at, { month: "long", year: "numeric" })}
        </p>
        <MonthStep label="The month after" onStep={() => setAt(addMonths(at, 1))}>
          <ChevronRight size={16} aria-hidden="true" />
        </MonthStep>
      </div>
      <table ref={grid} role="grid" className="month" onKeyDown={go}>
        <thead>
          <tr>
            {WEEKDAYS.map((name) => (
              <th key={name} scope="col">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {weeksOf(at).map((week) => (
            <tr key={week[0]}>
              {week.map((day) => (
                <td key={day} aria-selected={day === chosen}>
                  <button
                    type="button"
                    tabIndex={day === at ? 0 : -1}
                    aria-label={words(day, { dateStyle: "full" })}
                    aria-current={day === today ? "date" : undefined}
                    data-other={day.slice(0, 7) !== at.slice(0, 7) || undefined}
                    onClick={() => onChoose(day)}
                  >
                    {Number(day.slice(8))}
                  </button>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function MonthStep({
  label,
  onStep,
  children,
}: {
  label: string;
  onStep: () => void;
  children: React.ReactNode;
}) {
  return (
    <button type="button" className="month-step" aria-label={label} onClick={onStep}>
      {children}
    </button>
  );
}
