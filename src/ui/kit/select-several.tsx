"use client";
import { ChevronDown } from "lucide-react";
import { Check } from "./check";
import { fieldClass } from "./field";
import { NoteBeside } from "./option-notes";
import { Popover } from "./popover";

/** Any number out of several; the chosen ones are named on the button. */
export function SelectSeveral({
  values,
  options,
  onChange,
  label,
  none = "none",
  className = "!w-auto max-w-[260px]",
}: {
  values: readonly string[];
  options: readonly { value: string; label: string }[];
  onChange: (values: string[]) => void;
  label: string;
  /** Read while nothing is chosen. */
  none?: string;
  className?: string;
}) {
  const chosen = options.filter((option) => values.includes(option.value));
  const turn = (value: string, on: boolean) =>
    onChange(
      options
        .map((option) => option.value)
        .filter((each) => (each === value ? on : values.includes(each))),
    );
  return (
    <Popover
      label={label}
      className="max-h-[50vh] overflow-y-auto"
      trigger={
        <button
          type="button"
          className={fieldClass(false, `select ${className}`)}
          aria-label={`${label}: ${chosen.map((option) => option.label).join(", ") || none}`}
        >
          <span className="truncate">
            {chosen.map((option) => option.label).join(", ") || none}
          </span>
          <ChevronDown size={14} aria-hidden="true" className="select-sign" />
        </button>
      }
    >
      <div role="group" aria-label={label} className="flex flex-col">
        {options.map((option) => (
          <Check
            key={option.value}
            checked={values.includes(option.value)}
            onChange={(on) => turn(option.value, on)}
          >
            {option.label}
            <NoteBeside value={option.value} />
          </Check>
        ))}
      </div>
    </Popover>
  );
}
