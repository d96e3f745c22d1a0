"use client";
import { useState } from "react";
import { sizeWords } from "@/core/plan/size-scale";
import { AlikeItems } from "@/ui/plan/alike-items";
import { TextButton } from "@/ui/kit/button";
import { CommitNumber } from "@/ui/kit/commit-input";
import { Select } from "@/ui/kit/select";
import { Sheet } from "@/ui/kit/sheet";
import { useSizes } from "@/ui/kit/sizes";

const NONE = "";
const OTHER = "other";

/** How large an item is, from the sizes of its project, with finished ones to hold it against. */
export function SizeField({
  item: { id, key },
  projectKey,
  label,
  size,
  locked,
  onStore,
}: {
  item: { id: string; key: string };
  projectKey: string;
  label: string;
  size: number | null;
  locked: boolean;
  onStore: (size: number | null) => Promise<unknown>;
}) {
  const scale = useSizes();
  const [typing, setTyping] = useState(false);
  const [comparing, setComparing] = useState(false);
  const steps = scale.steps.map(({ name, size: of }) => ({
    value: String(of),
    label: scale.kind === "letters" ? `${name} (${of})` : sizeWords(of, scale),
  }));
  const known = size === null || steps.some(({ value }) => value === String(size));
  const choose = (value: string) => {
    if (value === OTHER) return setTyping(true);
    void onStore(value === NONE ? null : Number(value));
  };
  return (
    <div className="contents">
      <span className="self-center text-[12.5px] text-ink-soft">{label}</span>
      <span className="flex items-center gap-2">
        {typing ? (
          <CommitNumber
            label={`${label}, as a number`}
            disabled={locked}
            step="any"
            value={size}
            onCommit={(next) => {
              setTyping(false);
              if (next !== size) void onStore(next);
            }}
          />
        ) : (
          <Select
            plain
            label={label}
            disabled={locked}
            value={size === null ? NONE : String(size)}
            options={[
              { value: NONE, label: "No size" },
              ...(known ? [] : [{ value: String(size), label: `${size}, not one of the sizes` }]),
              ...steps,
              { value: OTHER, label: "Another number" },
            ]}
            onChange={choose}
          />
        )}
        <TextButton
          className="text-[12.5px]"
          aria-label={`Compare the size of ${key}`}
          onClick={() => setComparing(true)}
        >
          Compare
        </TextButton>
      </span>
      <Sheet
        open={comparing}
        onClose={() => setComparing(false)}
        title={`What is like ${key}`}
        className="!w-[520px]"
      >
        <AlikeItems projectKey={projectKey} itemId={id} />
      </Sheet>
    </div>
  );
}
