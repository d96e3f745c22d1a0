"use client";
import { useState } from "react";
import type { OwnField, OwnValue } from "@/core/item/own-field";

/**
 * Edits the value of a field that the project made for itself; takes effect when the field is left.
 */
export function OwnFieldInput({
  field,
  value,
  people,
  disabled = false,
  plain = false,
  onChange,
}: {
  field: OwnField;
  value: OwnValue | null;
  people: readonly { id: string; name: string }[];
  disabled?: boolean;
  /** Without a frame, as the other fields of an item's panel. */
  plain?: boolean;
  onChange: (value: OwnValue | null) => void;
}) {
  const className = `field ${plain ? "field-plain" : ""} ${field.unit ? "!w-28" : ""}`;
  const shared = { className, disabled, "aria-label": field.name } as const;
  const choices = (kept: string | null) => field.options.filter((o) => o.offered || o.id === kept);
  switch (field.kind) {
    case "yes or no":
      return (
        <select
          {...shared}
          value={value === true ? "yes" : value === false ? "no" : ""}
          onChange={(e) => onChange(e.target.value === "" ? null : e.target.value === "yes")}
        >
          <option value="">not said</option>
          <option value="yes">yes</option>
          <option value="no">no</option>
        </select>
      );
    case "one of":
    case "person": {
      const chosen = typeof value === "string" ? value : "";
      const options = field.kind === "person" ? people : choices(chosen);
      return (
        <select {...shared} value={chosen} onChange={(e) => onChange(e.target.value || null)}>
          <option value="">{field.kind === "person" ? "Nobody yet" : "Not set"}</option>
          {options.map((o) => (
            <option key={o.id} value={o.id}>
              {o.name}
            </option>
          ))}
        </select>
      );
    }
    case "many of": {
      const chosen = Array.isArray(value) ? value : [];
      return (
        <span
          role="group"
          aria-label={field.name}
          className="flex flex-wrap gap-x-3 gap-y-0.5 py-1"
        >
          {field.options
            .filter((o) => o.offered || chosen.includes(o.id))
            .map((o) => (
              <label key={o.id} className="inline-flex items-center gap-1 text-[13px]">
                <input
                  type="checkbox"
                  className="accent-(--accent)"
                  disabled={disabled}
                  checked={chosen.includes(o.id)}
                  onChange={(e) => {
                    const next = e.target.checked
                      ? [...chosen, o.id]
                      : chosen.filter((id) => id !== o.id);
                    onChange(next.length > 0 ? next : null);
                  }}
                />
                {o.name}
              </label>
            ))}
        </span>
      );
    }
    default:
      return (
        <TypedValue
          field={field}
          value={value}
          disabled={disabled}
          className={className}
          onChange={onChange}
        />
      );
  }
}

const INPUT_TYPES: Partial<Record<OwnField["kind"], string>> = {
  number: "number",
  date: "date",
  link: "url",
};

function TypedValue({
  field,
  value,
  disabled,
  className,
  onChange,
}: {
  field: OwnField;
  value: OwnValue | null;
  disabled: boolean;
  className: string;
  onChange: (value: OwnValue | null) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const shown = draft ?? (value === null ? "" : String(value));
  const commit = () => {
    if (draft !== null && draft !== String(value ?? "")) {
      const text = draft.trim();
      onChange(text === "" ? null : field.kind === "number" ? Number(text) : text);
    }
    setDraft(null);
  };
  return (
    <span className="flex items-center gap-1">
      <input
        className={className}
        aria-label={field.name}
        type={INPUT_TYPES[field.kind] ?? "text"}
        step={field.kind === "number" ? "any" : undefined}
        maxLength={2_000}
        placeholder={field.kind === "link" ? "https://" : undefined}
        disabled={disabled}
        value={shown}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === "Enter") {
            e.preventDefault();
            commit();
          }
          if (e.key === "Escape") setDraft(null);
        }}
      />
      {field.unit && <span className="shrink-0 text-[12.5px] text-ink-soft">{field.unit}</span>}
    </span>
  );
}
