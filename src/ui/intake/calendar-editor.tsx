"use client";
import { DaysFromFile } from "@/ui/kit/days-from-file";
import { DateInput } from "@/ui/kit/date-input";
import { TimeInput } from "@/ui/kit/time-input";
import { TextInput } from "@/ui/kit/field";
import { Button } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { useState } from "react";
import { addMonths } from "@/core/calendar/month";
import { eachDayOf, type NamedDays } from "@/core/calendar/named-days";
import { MOST_HOLIDAYS, type WorkingCalendar } from "@/core/calendar/working-time";
import { ListEditor } from "@/ui/kit/list-editor";
import { FormFooter } from "@/ui/kit/form-footer";

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
              <td className="py-1.5 pr-3">
                <Check
                  disabled={!mayEdit}
                  checked={hours !== null}
                  onChange={(on) => setDayHours(i, on ? { from: 9 * 60, to: 17 * 60 } : null)}
                >
                  {DAYS[i]}
                </Check>
              </td>
              <td>
                {hours ? (
                  <span className="inline-flex items-center gap-1">
                    <TimeInput
                      label={`${DAYS[i]} from`}
                      disabled={!mayEdit}
                      value={text(hours.from)}
                      onChange={(time) => setDayHours(i, { ...hours, from: minutes(time) })}
                    />
                    to
                    <TimeInput
                      label={`${DAYS[i]} to`}
                      disabled={!mayEdit}
                      value={text(Math.min(hours.to, 1_439))}
                      onChange={(time) => setDayHours(i, { ...hours, to: minutes(time) })}
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
      <FreeDays draft={draft} onChange={setDraft} mayEdit={mayEdit} />
      {mayEdit && changed && (
        <FormFooter
          className="mt-2"
          send="Store the calendar"
          onSend={() => onSave(draft)}
          onLeave={() => setDraft(calendar)}
        />
      )}
    </section>
  );
}

/** From a year ago for three years. */
function aroundNow() {
  const today = new Date().toISOString().slice(0, 10);
  return { from: addMonths(today, -12), to: addMonths(today, 24) };
}

/** Days on which nobody works, whatever the weekday. */
function FreeDays({
  draft,
  onChange,
  mayEdit,
}: {
  draft: WorkingCalendar;
  onChange: (draft: WorkingCalendar) => void;
  mayEdit: boolean;
}) {
  const [day, setDay] = useState("");
  const [name, setName] = useState("");
  const addHoliday = () => {
    const holidays = [...draft.holidays, { date: day, name: name.trim() }];
    onChange({ ...draft, holidays: holidays.sort((a, b) => (a.date < b.date ? -1 : 1)) });
    setDay("");
    setName("");
  };
  const take = (read: readonly NamedDays[]) => {
    const known = new Set(draft.holidays.map(({ date }) => date));
    const fresh = eachDayOf(read)
      .filter(({ date }) => !known.has(date))
      .slice(0, MOST_HOLIDAYS - known.size);
    const holidays = [...draft.holidays, ...fresh];
    onChange({ ...draft, holidays: holidays.toSorted((a, b) => (a.date < b.date ? -1 : 1)) });
    return fresh.length;
  };
  return (
    <>
      <p className="mt-2 text-[12px] font-semibold">Days without work</p>
      <ListEditor
        label="Days without work"
        items={draft.holidays}
        keyOf={(holiday) => holiday.date}
        nameOf={(holiday) => holiday.date}
        disabled={!mayEdit}
        empty="None."
        onRemove={(i) =>
          onChange({ ...draft, holidays: draft.holidays.filter((_, at) => at !== i) })
        }
        row={(holiday) => (
          <>
            <span className="w-24 tabular-nums">{holiday.date}</span>
            {holiday.name}
          </>
        )}
      >
        <div className="mt-1 flex items-center gap-2">
          <DateInput label="Day without work" value={day} onChange={setDay} />
          <TextInput
            aria-label="What that day is"
            maxLength={80}
            value={name}
            onChange={(e) => setName(e.target.value)}
            placeholder="A holiday"
          />
          <Button
            small
            disabled={!day || draft.holidays.some((h) => h.date === day)}
            onClick={addHoliday}
          >
            Add
          </Button>
        </div>
        {mayEdit && (
          <DaysFromFile
            label="Days without work from a calendar file"
            window={aroundNow}
            onDays={take}
          />
        )}
      </ListEditor>
    </>
  );
}
