"use client";
import type { PartSuggestion } from "@/core/intake/part-suggestion";
import { Button } from "@/ui/kit/button";
import { TermEditor } from "@/ui/item/terms/term-editor";

/** The parts of the product that a report is about, with those that it speaks for. */
export function PartsField({
  projectKey,
  suggested,
  value,
  hint,
  locked = false,
  onChange,
}: {
  projectKey: string;
  suggested: readonly PartSuggestion[];
  value: readonly string[];
  /** What holds where nothing is chosen. */
  hint?: string;
  locked?: boolean;
  onChange: (parts: string[]) => void;
}) {
  const open = locked ? [] : suggested.filter(({ name }) => !value.includes(name));
  return (
    <div className="col-span-full flex flex-wrap items-center gap-x-2 gap-y-1">
      <span className="text-[12.5px] font-semibold">Parts</span>
      {hint && <span className="text-ink-soft">{hint}</span>}
      <TermEditor
        projectKey={projectKey}
        kind="part"
        names={value}
        locked={locked}
        onChange={onChange}
      />
      {open.map(({ name, why }) => (
        <Button key={name} small look="quiet" onClick={() => onChange([...value, name])}>
          + {name} <span className="font-normal text-ink-soft">({why})</span>
        </Button>
      ))}
    </div>
  );
}
