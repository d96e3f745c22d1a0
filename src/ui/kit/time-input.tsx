"use client";
import { useState } from "react";
import { readTime } from "@/core/calendar/month";
import { fieldClass } from "./field";

/** A time of day as "HH:MM"; "9" and "0930" are understood. */
export function TimeInput({
  value,
  onChange,
  label,
  disabled,
}: {
  value: string;
  onChange: (time: string) => void;
  label: string;
  disabled?: boolean;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const wrong = typed !== null && readTime(typed) === null;
  return (
    <input
      className={fieldClass(false, "!w-16 text-center tabular-nums")}
      aria-label={label}
      ref={(input) => input?.setCustomValidity(wrong ? "Write a time like 09:30" : "")}
      aria-invalid={wrong || undefined}
      title={wrong ? "Write a time like 09:30" : undefined}
      inputMode="numeric"
      maxLength={5}
      disabled={disabled}
      value={typed ?? value}
      onFocus={(event) => event.target.select()}
      onChange={(event) => {
        setTyped(event.target.value);
        const time = readTime(event.target.value);
        if (time) onChange(time);
      }}
      onBlur={() => !wrong && setTyped(null)}
    />
  );
}
