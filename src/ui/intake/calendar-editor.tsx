"use client";
import { useState } from "react";
import type { WorkingCalendar } from "@/core/calendar/working-time";

const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const text = (minutes: number) =>
  `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
const minutes = (value: string) => {
  const [h, m] = value.split(":").map(Number);
  return h * 60 + m;
};

/** When the project works: hours by weekday, and days without work. */
export function CalendarEditor({
  calendar,
  zone,
  mayEdit,
  onSave,
}: {
  calendar: WorkingCalendar;
  zone: string;
  mayEdit: boolean;
  onSave: (calendar: WorkingCalendar) => void;
}) {
  const [draft, setDraft] = useState(calendar);
  const [day, setDay] = useState("");
  const [name, setName] = useState("");
  const changed = draft !== calendar;
  const setDayHours = (i: number, hours: { from: number; to: number } | null) =>
    setDraft((d) => ({ ...d, week: d.week.map((w, j) => (j === i ? hours : w)) }));
  return (
    <section aria-label="Working calendar">
      <h2 className="text-[15px]">When we work</h2>
      <p className="text-[12.5px] text-ink-soft">Hours as the clocks show them in {zone}.</p>
      <table className="mt-1 text-[13px]">
        <tbody>
          {draft.week.map((hours, i) => (
            <tr key={DAYS[i]}>
              <td className="pr-3">
                <label className="inline-flex items-center gap-1.5">
                  <input
                    type="checkbox"
                    className="accent-(--accent)"
                    disabled={!mayEdit}
                    checked={hours !== null}
                    onChange={(e) =>
                      setDayHours(i, e.target.checked ? { from: 9 * 60, to: 17 * 60 } : null)
                    }
                  />
                  {DAYS[i]}
                </label>
              </td>
              <td>
                {hours ? (
                  <span className="inline-flex items-center gap-1">
                    <input
                      className="field !w-28"
                      type="time"
                      aria-label={`${DAYS[i]} from`}
                      disabled={!mayEdit}
                      value={text(hours.from)}
                      onChange={(e) =>
                        e.target.value &&
                        setDayHours(i, { ...hours, from: minutes(e.target.value) })
                      }
                    />
                    to
                    <input
                      className="field !w-28"
                      type="time"
                      aria-label={`${DAYS[i]} to`}
                      disabled={!mayEdit}
                      value={text(Math.min(hours.to, 1_439))}
                      onChange={(e) =>
                        e.target.value && setDayHours(i, { ...hours, to: minutes(e.target.value) })
                      }
                    />
                  </span>
                ) : (
                  <span className="text-ink-soft">no work</span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-[12px] font-semibold">Days without work</p>
      {draft.holidays.length === 0 && <p className="text-[13px] text-ink-soft">None.</p>}
      <ul>
        {draft.holidays.map((h) => (
          <li key={h.date} className="flex items-center gap-2 text-[13px]">
            <span className="w-24 tabular-nums">{h.date}</span>
            <span className="flex-1">{h.name}</span>
            {mayEdit && (
              <button
                type="button"
                className="link"
                aria-label={`${h.date} is a day of work`}
                onClick={() =>
                  setDraft((d) => ({ ...d, holidays: d.holidays.filter((x) => x.date !== h.date) }))
                }
              >
                take out
              </button>
            )}
          </li>
        ))}
      </ul>
      {mayEdit && (
        <div className="mt-1 flex items-center gap-2">
          <input
            className="field !w-36"
            type="date"
            aria-label="Day without work"
            value={day}
            onChange={(e) => setDay(e.target.value)}
          />
          <input
            className="field"
            aria-label="What that day is"
            maxLength={80}
            value={name}
            onChange={(e) => setName(e.target.value)}
            placeholder="Harbour festival"
          />
          <button
            type="button"
            className="button button-small"
            disabled={!day || draft.holidays.some((h) => h.date === day)}
            onClick={() => {
              setDraft((d) => ({
                ...d,
                holidays: [...d.holidays, { date: day, name: name.trim() }].sort((a, b) =>
                  a.date < b.date ? -1 : 1,
                ),
              }));
              setDay("");
              setName("");
            }}
          >
            Add
          </button>
        </div>
      )}
      {mayEdit && changed && (
        <div className="mt-2 flex gap-2">
          <button
            type="button"
            className="button button-small button-accent"
            onClick={() => onSave(draft)}
          >
            Store the calendar
          </button>
          <button
            type="button"
            className="button button-small button-quiet"
            onClick={() => setDraft(calendar)}
          >
            Leave it
          </button>
        </div>
      )}
    </section>
  );
}
