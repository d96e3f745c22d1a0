"use client";
import { X } from "lucide-react";
import type { Condition } from "@/core/condition/condition";
import { isRead } from "@/core/condition/condition";
import { simplify } from "@/core/condition/simplify";
import { chosenIn } from "@/core/view/filter";
import { partText, partWords } from "@/core/view/filter-words";
import { ConditionEditor } from "@/ui/condition/condition-editor";
import { Popover } from "@/ui/kit/popover";
import { ChooseValues } from "./choose-values";
import type { LookHandle } from "./use-look";

/** One part of a filter: what it says, how it is changed, and the way to take it out. */
export function FilterPart({
  handle,
  part,
  open,
  onOpenChange,
  onChange,
}: {
  handle: LookHandle;
  part: Condition;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  onChange: (part: Condition | null) => void;
}) {
  const { vocabulary, named } = handle.views;
  const { field, words } = partWords(part, vocabulary, named);
  const text = partText(part, vocabulary, named);
  const chosen = chosenIn(part);
  return (
    <span className="filter-part">
      <Popover
        open={open}
        onOpenChange={onOpenChange}
        label={`Change: ${text}`}
        className={chosen ? "w-[320px]" : "w-[560px]"}
        trigger={
          <button type="button" className="filter-words" aria-label={`${text}, change it`}>
            {field && <span className="font-normal text-ink-soft">{field} </span>}
            {words}
          </button>
        }
      >
        {chosen ? (
          <ChooseValues handle={handle} chosen={chosen} onChange={onChange} />
        ) : (
          <ConditionEditor
            condition={part.kind === "compare" ? { kind: "all", of: [part] } : part}
            vocabulary={vocabulary}
            onChange={(next) => isRead(next) && onChange(simplify(next))}
          />
        )}
      </Popover>
      <button
        type="button"
        className="filter-out"
        aria-label={`Take out: ${text}`}
        onClick={() => onChange(null)}
      >
        <X size={12} aria-hidden="true" />
      </button>
    </span>
  );
}
