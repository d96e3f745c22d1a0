"use client";
import { useState } from "react";
import { TextInput } from "./field";

/** Text that takes effect when the field is left or on Enter; Escape leaves it as it was. */
export function CommitText({
  value,
  label,
  disabled,
  max = 60,
  required = false,
  placeholder,
  onCommit,
}: {
  value: string;
  label?: string;
  disabled: boolean;
  max?: number;
  required?: boolean;
  placeholder?: string;
  /** @returns false where it cannot be so: then it stands there still, to be put right */
  onCommit: (value: string) => void | false;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    const isNew = draft !== null && draft.trim() !== value && (draft.trim() !== "" || !required);
    if (isNew && onCommit(draft.trim()) === false) return;
    setDraft(null);
  };
  return (
    <TextInput
      aria-label={label}
      disabled={disabled}
      maxLength={max}
      placeholder={placeholder}
      value={draft ?? value}
      onChange={(e) => setDraft(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === "Enter") e.currentTarget.blur();
        if (e.key === "Escape") setDraft(null);
      }}
    />
  );
}

/** A number or nothing, which takes effect when the field is left. */
export function CommitNumber({
  value,
  label,
  disabled,
  min = 0,
  step = 1,
  onCommit,
}: {
  value: number | null;
  label?: string;
  disabled: boolean;
  min?: number;
  step?: number | "any";
  onCommit: (value: number | null) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    if (draft !== null) {
      const next = draft.trim() === "" ? null : Number(draft);
      if (next === null || (Number.isFinite(next) && next >= min)) onCommit(next);
    }
    setDraft(null);
  };
  return (
    <TextInput
      type="number"
      aria-label={label}
      min={min}
      step={step}
      disabled={disabled}
      placeholder="–"
      value={draft ?? value ?? ""}
      onChange={(e) => setDraft(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
    />
  );
}
