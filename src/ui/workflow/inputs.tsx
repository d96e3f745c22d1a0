"use client";
import { useState, type ReactNode } from "react";

export interface Option {
  value: string;
  label: string;
}

/** A field with its label above it. */
export function Labelled({
  label,
  children,
  wide = false,
}: {
  label: string;
  children: ReactNode;
  wide?: boolean;
}) {
  return (
    <label
      className={`flex flex-col gap-0.5 text-[12px] font-semibold ${wide ? "col-span-full" : ""}`}
    >
      {label}
      {children}
    </label>
  );
}

/** Text that takes effect when the field is left or on Enter; Escape leaves it as it was. */
export function TextInput({
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
  onCommit: (value: string) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    if (draft !== null && draft.trim() !== value && (draft.trim() !== "" || !required))
      onCommit(draft.trim());
    setDraft(null);
  };
  return (
    <input
      className="field"
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
export function NumberInput({
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
    <input
      className="field"
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

export function Choice({
  value,
  label,
  disabled = false,
  options,
  onChange,
}: {
  value: string;
  label?: string;
  disabled?: boolean;
  options: readonly Option[];
  onChange: (value: string) => void;
}) {
  return (
    <select
      className="field"
      aria-label={label}
      disabled={disabled}
      value={value}
      onChange={(e) => onChange(e.target.value)}
    >
      {options.map((o) => (
        <option key={o.value} value={o.value}>
          {o.label}
        </option>
      ))}
    </select>
  );
}

export const optionsOf = (words: readonly string[]): Option[] =>
  words.map((w) => ({ value: w, label: w }));
export const named = (things: readonly { id: string; name: string }[]): Option[] =>
  things.map((t) => ({ value: t.id, label: t.name }));

/** Adds one of several kinds of thing. */
export function AddMenu({
  label,
  options,
  narrow = false,
  onAdd,
}: {
  label: string;
  narrow?: boolean;
  options: readonly Option[];
  onAdd: (value: string) => void;
}) {
  return (
    <select
      className={`field text-accent ${narrow ? "!w-20" : "!w-auto"}`}
      aria-label={label}
      value=""
      onChange={(e) => e.target.value && onAdd(e.target.value)}
    >
      <option value="">{label}</option>
      {options.map((o) => (
        <option key={o.value} value={o.value}>
          {o.label}
        </option>
      ))}
    </select>
  );
}
