"use client";
import { CalendarDays } from "lucide-react";
import { useState } from "react";
import { readDay, type Day } from "@/core/calendar/month";
import { fieldClass } from "./field";
import { MonthGrid } from "./month-grid";
import { Popover } from "./popover";

const today = (): Day => {
  const now = new Date();
  const local = new Date(now.getTime() - now.getTimezoneOffset() * 60_000);
  return local.toISOString().slice(0, 10);
};

/**
 * A day, typed ("2026-11-28", "28 Nov") or chosen from its month. What is typed and is no day is
 * marked and keeps standing; the value stays as it was.
 */
export function DateInput({
  value,
  onChange,
  label,
  disabled,
  required,
  min,
  plain,
  className = "w-40",
  ...rest
}: {
  /** The day, or empty. */
  value: string;
  onChange: (day: string) => void;
  label?: string;
  disabled?: boolean;
  required?: boolean;
  /** The first day that may be chosen. */
  min?: Day;
  plain?: boolean;
  className?: string;
  id?: string;
  name?: string;
  "aria-invalid"?: boolean;
  "aria-describedby"?: string;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const [open, setOpen] = useState(false);
  const unread = typed !== null && typed.trim() !== "" && readDay(typed, today()) === null;
  const early = !unread && min !== undefined && value !== "" && value < min;
  const wrong = unread ? "Write a day like 2026-11-28 or 28 Nov" : early ? `Not before ${min}` : "";
  const type = (text: string) => {
    setTyped(text);
    const day = readDay(text, today());
    if (text.trim() === "") onChange("");
    else if (day) onChange(day);
  };
  return (
    <span className={`relative inline-flex ${className}`}>
      <input
        {...rest}
        className={fieldClass(plain, "!pl-2 !pr-7 tabular-nums text-[13px]")}
        aria-label={label}
        // A form around it is not sent while this stands.
        ref={(input) => input?.setCustomValidity(wrong)}
        aria-invalid={wrong !== "" || rest["aria-invalid"] || undefined}
        title={wrong || undefined}
        placeholder={plain ? "No day" : "day"}
        autoComplete="off"
        maxLength={30}
        disabled={disabled}
        required={required}
        value={typed ?? value}
        onChange={(event) => type(event.target.value)}
        onBlur={() => !unread && setTyped(null)}
      />
      <Popover
        open={open}
        onOpenChange={setOpen}
        label={`Choose ${label ?? "a day"}`}
        align="end"
        trigger={
          <button
            type="button"
            className="in-field"
            disabled={disabled}
            aria-label={`Choose ${label ?? "a day"} from a month`}
          >
            <CalendarDays size={15} aria-hidden="true" />
          </button>
        }
      >
        <MonthGrid
          chosen={value || null}
          today={today()}
          onChoose={(day) => {
            setTyped(null);
            onChange(day);
            setOpen(false);
          }}
        />
      </Popover>
    </span>
  );
}
