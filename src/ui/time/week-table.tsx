"use client";
import Link from "next/link";
import { useState } from "react";
import { weekdayOf } from "@/core/calendar/month";
import { amountWords } from "@/core/time/amount";
import type { TimeEntry } from "@/core/time/entry";
import type { WeekDay, WeekRow } from "@/core/time/week";
import { TextButton } from "@/ui/kit/button";
import { Popover } from "@/ui/kit/popover";
import { shortDate } from "@/ui/kit/time";
import { RecordForm } from "./record-form";
import { useRecording } from "./use-recording";
import type { WeekHandle } from "./use-week";

/** An item in the week, also one on which nothing is recorded yet. */
export type WeekLine = WeekRow;

const sumOf = (entries: readonly TimeEntry[]) =>
  entries.reduce((sum, { minutes }) => sum + minutes, 0);

const WEEKDAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/** Items by days, each cell with what was recorded, and each day against how much one works. */
export function WeekTable({ week, lines }: { week: WeekHandle; lines: readonly WeekLine[] }) {
  const { view } = week;
  const ofDay = (day: string) =>
    sumOf(view.rows.flatMap(({ entries }) => entries.filter(({ on }) => on === day))) +
    (view.unseen[day] ?? 0);
  const hidden = Object.values(view.unseen).reduce((sum, one) => sum + one, 0);
  return (
    <table className="week-table">
      <thead>
        <tr>
          <th scope="col">Item</th>
          {view.days.map(({ day, free }, i) => (
            <th
              key={day}
              scope="col"
              data-today={day === view.today || undefined}
              data-free={isFree(view.days[i]) || undefined}
            >
              {WEEKDAYS[i]} {Number(day.slice(8))}
              {free && <span> {free}</span>}
            </th>
          ))}
          <th scope="col">Week</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={line.itemId}>
            <th scope="row">
              <Link className="link key" href={`/p/${line.key.split("-")[0]}/items/${line.key}`}>
                {line.key}
              </Link>{" "}
              <span title={line.title}>{line.title}</span>
            </th>
            {view.days.map((day) => (
              <td key={day.day} data-free={isFree(day) || undefined}>
                <WeekCell week={week} line={line} day={day.day} />
              </td>
            ))}
            <td className="figures">
              {line.entries.length > 0 && amountWords(sumOf(line.entries))}
            </td>
          </tr>
        ))}
        {hidden > 0 && (
          <tr>
            <th scope="row" className="text-ink-soft">
              On items outside your view
            </th>
            {view.days.map((day) => (
              <td key={day.day} className="figures" data-free={isFree(day) || undefined}>
                {view.unseen[day.day] ? amountWords(view.unseen[day.day]) : ""}
              </td>
            ))}
            <td className="figures">{amountWords(hidden)}</td>
          </tr>
        )}
        {lines.length === 0 && hidden === 0 && (
          <tr>
            <td colSpan={9} className="py-6 text-center text-ink-soft">
              {view.mine
                ? "Nothing in hand and nothing recorded in this week. Choose an item below to record on."
                : "Nothing is recorded in this week."}
            </td>
          </tr>
        )}
      </tbody>
      <tfoot>
        <tr>
          <th scope="row">Together</th>
          {view.days.map((day) => (
            <td key={day.day} data-free={isFree(day) || undefined}>
              <DaySum minutes={ofDay(day.day)} room={day.room} />
            </td>
          ))}
          <td />
        </tr>
      </tfoot>
    </table>
  );
}

const isFree = ({ room }: WeekDay) => room === 0;

/** What a day came to, against how much is worked on it. */
function DaySum({ minutes, room }: { minutes: number; room: number }) {
  if (minutes === 0 && room === 0) return null;
  const whole = Math.max(minutes, room, 1);
  return (
    <span className="week-sum" data-over={(room > 0 && minutes > room) || undefined}>
      <span className="time-bar" aria-hidden="true">
        <i data-part="spent" style={{ width: `${(100 * minutes) / whole}%` }} />
        {minutes > room && room > 0 && <b style={{ left: `${(100 * room) / whole}%` }} />}
      </span>
      <span className="figures">{minutes === 0 ? "–" : amountWords(minutes)}</span>
    </span>
  );
}

function WeekCell({ week, line, day }: { week: WeekHandle; line: WeekLine; day: string }) {
  const { view, readAgain } = week;
  const [open, setOpen] = useState(false);
  const [changing, setChanging] = useState<TimeEntry | null>(null);
  const { record, change, remove } = useRecording(line, readAgain);
  const entries = line.entries.filter(({ on }) => on === day);
  const words = entries.length > 0 ? amountWords(sumOf(entries)) : "";
  const told = `${words || "nothing"} on ${line.key}, ${shortDate(day)}`;
  if (!view.mine)
    return (
      <span className="figures" title={entries.map(({ note }) => note).join("; ") || undefined}>
        {words}
      </span>
    );
  if (day > view.today) return null;
  return (
    <Popover
      open={open}
      onOpenChange={(now) => {
        setOpen(now);
        setChanging(null);
      }}
      label={told}
      className="w-[340px] p-3"
      trigger={
        <button type="button" className="week-cell figures" aria-label={told}>
          {words || <span aria-hidden="true">+</span>}
        </button>
      }
    >
      <p className="text-[13px]">
        <b>{line.key}</b> on {weekdayWords(day)}
      </p>
      <ul className="time-entries">
        {entries.map((entry) => (
          <li key={entry.entryId}>
            <b className="figures">{amountWords(entry.minutes)}</b>
            <span className="truncate" title={entry.note}>
              {entry.note}
            </span>
            <span className="flex gap-2">
              <TextButton onClick={() => setChanging(entry)}>Change</TextButton>
              <TextButton
                onClick={() => {
                  setOpen(false);
                  void remove(entry).catch(() => undefined);
                }}
              >
                Remove
              </TextButton>
            </span>
          </li>
        ))}
      </ul>
      <RecordForm
        key={changing?.entryId ?? "new"}
        was={changing}
        left={line.left}
        today={view.today}
        day={day}
        hoursADay={view.hoursADay}
        onRecord={(recorded) => (changing ? change(changing, recorded) : record(recorded))}
        onDone={() => setOpen(false)}
      />
    </Popover>
  );
}

const weekdayWords = (day: string) => `${WEEKDAYS[weekdayOf(day)]}, ${shortDate(day)}`;
