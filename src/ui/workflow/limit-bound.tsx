"use client";
import { useState } from "react";
import { TextInput } from "@/ui/kit/field";
import { Select } from "@/ui/kit/select";

/** One side of a limit: the number, stored when it is left, and whether it is firm. */
export function LimitBound({
  label,
  value,
  firm,
  mayEdit,
  onStore,
}: {
  label: string;
  value: number | null;
  firm: boolean;
  mayEdit: boolean;
  onStore: (value: number | null, firm: boolean) => Promise<boolean>;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  /** What was typed and refused keeps standing, beside what is in force. */
  const [refused, setRefused] = useState(false);
  const leave = () => {
    setDraft(null);
    setRefused(false);
  };
  const store = async () => {
    if (draft === null) return;
    const next = draft.trim() === "" ? null : Number(draft);
    if (next !== value && !(await onStore(next, firm))) return setRefused(true);
    leave();
  };
  return (
    <span className="flex items-center gap-1.5">
      <TextInput
        className="!w-16"
        type="number"
        min={0}
        step={1}
        aria-label={label}
        placeholder="–"
        disabled={!mayEdit}
        value={draft ?? value ?? ""}
        onChange={(e) => {
          setDraft(e.target.value);
          setRefused(false);
        }}
        aria-invalid={refused}
        onBlur={() => void (refused ? leave() : store())}
        onKeyDown={(e) => {
          if (e.key === "Enter") e.currentTarget.blur();
          if (e.key === "Escape") leave();
        }}
      />
      {refused && (
        <span className="text-[12.5px] font-semibold text-alarm">is {value ?? "none"}</span>
      )}
      {/* Without a number there is nothing to be firm about. */}
      {value !== null && (
        <span className="w-24">
          <Select
            plain
            label={`${label} is`}
            disabled={!mayEdit}
            value={firm ? "firm" : "advice"}
            options={[
              { value: "advice", label: "advice" },
              { value: "firm", label: "firm" },
            ]}
            onChange={(next) => void onStore(value, next === "firm")}
          />
        </span>
      )}
    </span>
  );
}
