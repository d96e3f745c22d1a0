"use client";
import { useState, type FormEvent } from "react";
import { MOST_DAYS_OFF, type PersonHours } from "@/core/alerts/hours";
import { addMonths } from "@/core/calendar/month";
import { Button, TextButton } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { DaysFromFile } from "@/ui/kit/days-from-file";
import { DateInput } from "@/ui/kit/date-input";
import { Field, TextInput } from "@/ui/kit/field";
import { Select } from "@/ui/kit/select";
import { TimeInput } from "@/ui/kit/time-input";
import { shortDate } from "@/ui/kit/time";

const WEEK = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

const clock = (minutes: number) =>
  `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
const minutesOf = (time: string) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3));

/** On which days I work, when no mail comes, and when I am away. */
export function HoursForm({
  initial,
  onSave,
}: {
  initial: PersonHours;
  onSave: (hours: PersonHours) => Promise<void>;
}) {
  const [hours, setHours] = useState(initial);
  const [busy, setBusy] = useState(false);
  const change = (part: Partial<PersonHours>) => setHours({ ...hours, ...part });
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    await onSave(hours);
    setBusy(false);
  };
  const turnDay = (day: number, on: boolean) =>
    change({
      workDays: on
        ? [...hours.workDays, day].toSorted((a, b) => a - b)
        : hours.workDays.filter((d) => d !== day),
    });
  const { quiet } = hours;
  return (
    <form onSubmit={(e) => void submit(e)} className="sheet flex flex-col gap-3 p-4">
      <h2 className="text-[15px]">My days</h2>
      <fieldset className="flex flex-wrap gap-x-3 gap-y-1">
        <legend className="text-[12.5px] text-ink-soft">I work on</legend>
        {WEEK.map((name, day) => (
          <Check
            key={name}
            aria-label={name}
            checked={hours.workDays.includes(day)}
            onChange={(on) => turnDay(day, on)}
          >
            {name.slice(0, 2)}
          </Check>
        ))}
      </fieldset>
      <div className="flex items-center gap-2">
        <span className="flex-1">Hours on a working day</span>
        <TextInput
          aria-label="Hours on a working day"
          type="number"
          min={0.5}
          max={24}
          step={0.25}
          className="!w-20"
          value={hours.hoursADay}
          onChange={(e) => change({ hoursADay: Number(e.target.value) })}
        />
      </div>
      <div className="flex items-center gap-2">
        <span className="flex-1">Morning mail at</span>
        <TimeInput
          label="Morning mail at"
          value={clock(hours.morningAt)}
          onChange={(time) => change({ morningAt: minutesOf(time) })}
        />
      </div>
      <Field label="Weekly mail on">
        <Select
          label="Weekly mail on"
          value={String(hours.weeklyOn)}
          options={WEEK.map((label, day) => ({ value: String(day), label }))}
          onChange={(day) => change({ weeklyOn: Number(day) })}
        />
      </Field>
      <Check
        checked={quiet !== null}
        onChange={(on) => change({ quiet: on ? { from: 20 * 60, to: 7 * 60 } : null })}
      >
        Quiet hours: no mail at once
      </Check>
      {quiet && (
        <div className="flex items-center gap-2 pl-6">
          <TimeInput
            label="Quiet from"
            value={clock(quiet.from)}
            onChange={(time) => change({ quiet: { ...quiet, from: minutesOf(time) } })}
          />
          to
          <TimeInput
            label="Quiet to"
            value={clock(quiet.to)}
            onChange={(time) => change({ quiet: { ...quiet, to: minutesOf(time) } })}
          />
        </div>
      )}
      <p className="text-[12.5px] text-ink-soft">
        Who names or asks me, and what is expedite, comes through at any hour.
      </p>
      <DaysOff daysOff={hours.daysOff} onChange={(daysOff) => change({ daysOff })} />
      <Field label="Time zone">
        <TextInput
          value={hours.zone}
          maxLength={60}
          onChange={(e) => change({ zone: e.target.value })}
        />
      </Field>
      <Button type="submit" look="strong" disabled={busy} className="self-start">
        Keep my days
      </Button>
    </form>
  );
}

/** From today on for two years. */
function ahead() {
  const today = new Date().toISOString().slice(0, 10);
  return { from: today, to: addMonths(today, 24) };
}

function DaysOff({
  daysOff,
  onChange,
}: {
  daysOff: PersonHours["daysOff"];
  onChange: (daysOff: PersonHours["daysOff"]) => void;
}) {
  const [from, setFrom] = useState("");
  const [to, setTo] = useState("");
  const add = () => {
    if (from === "") return;
    const last = to === "" || to < from ? from : to;
    const others = daysOff.filter((one) => one.from !== from);
    onChange([...others, { from, to: last }].toSorted((a, b) => (a.from < b.from ? -1 : 1)));
    setFrom("");
    setTo("");
  };
  const take = (read: readonly { from: string; to: string }[]) => {
    const fresh = read
      .map(({ from, to }) => ({ from, to }))
      .filter((one) => !daysOff.some((known) => known.from <= one.from && one.to <= known.to))
      .slice(0, MOST_DAYS_OFF - daysOff.length);
    onChange([...daysOff, ...fresh].toSorted((a, b) => (a.from < b.from ? -1 : 1)));
    return fresh.length;
  };
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="text-[12.5px] text-ink-soft">I am away</legend>
      {daysOff.length === 0 && <p className="text-ink-soft">No days are set.</p>}
      <ul>
        {daysOff.map((one) => (
          <li key={one.from} className="flex items-center gap-2">
            <span className="flex-1">
              {shortDate(one.from)}
              {one.to !== one.from && ` to ${shortDate(one.to)}`}
            </span>
            <TextButton
              className="text-[13px]"
              aria-label={`Take out ${shortDate(one.from)}`}
              onClick={() => onChange(daysOff.filter((o) => o !== one))}
            >
              Take out
            </TextButton>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-2">
        <DateInput label="Away from" value={from} onChange={setFrom} />
        to
        <DateInput label="Away to" value={to} onChange={setTo} min={from || undefined} />
        <Button small disabled={from === ""} onClick={add}>
          Add
        </Button>
      </div>
      <DaysFromFile label="Days off from a calendar file" window={ahead} onDays={take} />
    </fieldset>
  );
}
