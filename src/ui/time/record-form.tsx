"use client";
import { useState, type FormEvent } from "react";
import type { Day } from "@/core/calendar/month";
import { amountWords, isInDays, readAmount } from "@/core/time/amount";
import { leftAfter, type TimeEntry } from "@/core/time/entry";
import { Button } from "@/ui/kit/button";
import { DateInput } from "@/ui/kit/date-input";
import { TextInput } from "@/ui/kit/field";

/** What somebody says of the time that they spent. */
export interface Recorded {
  minutes: number;
  on: Day;
  note: string;
  /** In hours; left out where nobody said how much is left. */
  left?: number | null;
}

/** How long, on which day, on what, and what is left then. */
export function RecordForm({
  was,
  left,
  today,
  day = today,
  hoursADay,
  onRecord,
  onDone,
}: {
  /** What is changed; null where it is new. */
  was: TimeEntry | null;
  /** Of the item alone, in hours. */
  left: number | null;
  today: Day;
  day?: Day;
  hoursADay: number;
  /** @throws Problem, which it has told */
  onRecord: (recorded: Recorded) => Promise<void>;
  onDone: () => void;
}) {
  const [amount, setAmount] = useState(was ? amountWords(was.minutes) : "");
  const [on, setOn] = useState(was?.on ?? day);
  const [note, setNote] = useState(was?.note ?? "");
  const [leftThen, setLeftThen] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const read = readAmount(amount, hoursADay);
  const minutes = "minutes" in read ? read.minutes : 0;
  const proposed = leftAfter(left, was, { minutes });
  const said = leftThen ?? (proposed === null ? "" : String(proposed));
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (!("minutes" in read)) return;
    setBusy(true);
    try {
      const then = said === "" ? null : Number(said);
      await onRecord({ minutes, on, note, ...(then === left ? {} : { left: then }) });
      onDone();
    } catch {
      setBusy(false);
    }
  };
  return (
    <form
      onSubmit={(e) => void submit(e)}
      className="record-form"
      aria-label={was ? "Change recorded time" : "Record time"}
    >
      <label>
        <span>How long</span>
        <TextInput
          autoFocus
          required
          className="!w-28"
          placeholder="1 h 30 min"
          maxLength={60}
          value={amount}
          aria-invalid={amount !== "" && !("minutes" in read)}
          onChange={(e) => setAmount(e.target.value)}
        />
      </label>
      <label>
        <span>On</span>
        <DateInput label="On which day" className="w-32" value={on} onChange={setOn} />
      </label>
      <label>
        <span>Hours left then</span>
        <TextInput
          type="number"
          min={0}
          step="any"
          className="!w-24"
          value={said}
          onChange={(e) => setLeftThen(e.target.value)}
        />
      </label>
      <label className="record-note">
        <span>On what (if you like)</span>
        <TextInput maxLength={500} value={note} onChange={(e) => setNote(e.target.value)} />
      </label>
      <p className="record-said" role="status">
        {amount !== "" && "problem" in read && <span className="text-alarm">{read.problem}</span>}
        {"minutes" in read && isInDays(amount) && (
          <>
            {amountWords(minutes)}, by your working day of {amountWords(hoursADay * 60)}
          </>
        )}
        {on > today && <span className="text-alarm">That day is still to come.</span>}
      </p>
      <span className="flex justify-end gap-2">
        <Button look="quiet" small onClick={onDone}>
          Not now
        </Button>
        <Button type="submit" small disabled={busy || !("minutes" in read) || on > today}>
          {was ? "Keep the change" : "Record it"}
        </Button>
      </span>
    </form>
  );
}
