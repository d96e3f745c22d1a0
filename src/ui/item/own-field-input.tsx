"use client";
import { TextInput } from "@/ui/kit/field";
import { DateInput } from "@/ui/kit/date-input";
import { namedOptions, Select } from "@/ui/kit/select";
import { Check } from "@/ui/kit/check";
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
  const shared = { plain, disabled, label: field.name } as const;
  const choices = (kept: string | null) => field.options.filter((o) => o.offered || o.id === kept);
  switch (field.kind) {
    case "yes or no":
      return (
        <Select
          {...shared}
          value={value === true ? "yes" : value === false ? "no" : ""}
          options={[
            { value: "", label: "not said" },
            { value: "yes", label: "yes" },
            { value: "no", label: "no" },
          ]}
          onChange={(said) => onChange(said === "" ? null : said === "yes")}
        />
      );
    case "one of":
    case "person": {
      const chosen = typeof value === "string" ? value : "";
      const options = field.kind === "person" ? people : choices(chosen);
      return (
        <Select
          {...shared}
          value={chosen}
          options={[
            { value: "", label: field.kind === "person" ? "Nobody yet" : "Not set" },
            ...namedOptions(options),
          ]}
          onChange={(id) => onChange(id || null)}
        />
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
              <Check
                key={o.id}
                disabled={disabled}
                checked={chosen.includes(o.id)}
                onChange={(on) => {
                  const next = on ? [...chosen, o.id] : chosen.filter((id) => id !== o.id);
                  onChange(next.length > 0 ? next : null);
                }}
                className="text-[13px]"
              >
                {o.name}
              </Check>
            ))}
        </span>
      );
    }
    case "date":
      return (
        <DateInput
          {...shared}
          value={typeof value === "string" ? value : ""}
          onChange={(day) => onChange(day || null)}
        />
      );
    default:
      return (
        <TypedValue
          field={field}
          value={value}
          disabled={disabled}
          plain={plain}
          onChange={onChange}
        />
      );
  }
}

const INPUT_TYPES: Partial<Record<OwnField["kind"], string>> = {
  number: "number",
  link: "url",
};

function TypedValue({
  field,
  value,
  disabled,
  plain,
  onChange,
}: {
  field: OwnField;
  value: OwnValue | null;
  disabled: boolean;
  plain: boolean;
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
      <TextInput
        plain={plain}
        className={field.unit ? "!w-28" : ""}
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
