"use client";
import { Command } from "cmdk";
import { useRef, useState, type RefObject } from "react";
import type { Condition } from "@/core/condition/condition";
import { operatorsFor } from "@/core/condition/condition";
import type { FactName } from "@/core/condition/facts";
import { factOf } from "@/core/condition/facts";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { choicesOffered, suggestions, type Suggestion } from "@/core/view/suggest";
import { choosing } from "@/core/view/filter";
import type { NamedCondition } from "@/core/view/filter-words";
import { firstValue } from "@/ui/condition/query";

/** A part about a field to begin with, whose value is chosen next. */
function begun(fact: FactName, vocabulary: Vocabulary): Condition {
  if (factOf(fact).kind === "choice") {
    const [first] = choicesOffered(fact, vocabulary);
    return choosing({ fact, values: [first ?? null] })!;
  }
  const [op] = operatorsFor(fact).filter((op) => op !== "is" || factOf(fact).kind === "flag");
  return { kind: "compare", fact, op, value: firstValue(fact, op, vocabulary) };
}

/** Where a filter is typed: what fits is offered as one writes, Enter takes the first. */
export function FilterAdd({
  vocabulary,
  named,
  field,
  onAdd,
}: {
  vocabulary: Vocabulary;
  named: readonly NamedCondition[];
  field: RefObject<HTMLInputElement | null>;
  /** An unfinished part is a field whose value is still to be chosen. */
  onAdd: (part: Condition, unfinished: boolean) => void;
}) {
  const [text, setText] = useState("");
  const [open, setOpen] = useState(false);
  const place = useRef<HTMLDivElement>(null);
  const offered = open ? suggestions(text, vocabulary, named) : [];
  const take = (suggestion: Suggestion) => {
    const whole = suggestion.kind === "part";
    onAdd(whole ? suggestion.part : begun(suggestion.fact, vocabulary), !whole);
    setText("");
    setOpen(false);
  };
  return (
    <div
      ref={place}
      className="relative"
      onBlur={(event) => {
        if (!place.current?.contains(event.relatedTarget)) setOpen(false);
      }}
    >
      <Command shouldFilter={false} label="Narrow what is shown" loop>
        <Command.Input
          ref={field}
          className="filter-add"
          aria-label="Narrow what is shown"
          placeholder="narrow by anything"
          maxLength={400}
          value={text}
          onFocus={() => setOpen(true)}
          onClick={() => setOpen(true)}
          onValueChange={(next) => {
            setText(next);
            setOpen(true);
          }}
          onKeyDown={(event) => {
            if (event.key === "ArrowDown") setOpen(true);
            if (event.key !== "Escape") return;
            event.preventDefault();
            event.stopPropagation();
            setText("");
            setOpen(false);
            event.currentTarget.blur();
          }}
        />
        {/* The field says which list is its own, also while that is away. */}
        <Command.List
          hidden={offered.length === 0}
          className="popover absolute top-full left-0 z-40 mt-1 max-h-[340px] w-[340px] overflow-y-auto !p-1"
        >
          {offered.map((suggestion, i) => (
            <Command.Item
              key={`${suggestion.label} ${suggestion.note} ${i}`}
              value={`${i} ${suggestion.label}`}
              className="option"
              onMouseDown={(event) => event.preventDefault()}
              onSelect={() => take(suggestion)}
            >
              <span className="min-w-0 flex-1 truncate">{suggestion.label}</span>
              <span className="shrink-0 pl-3 text-[12px] text-ink-soft">{suggestion.note}</span>
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </div>
  );
}
