"use client";
import { Check, ChevronDown } from "lucide-react";
import { Command } from "cmdk";
import { useRef, useState, type KeyboardEvent } from "react";
import { fieldClass } from "./field";
import { Popover } from "./popover";

export interface Found {
  value: string;
  label: string;
}

/** One of many, found by typing; what is offered is the caller's answer to the text. */
export function Combobox({
  value,
  found,
  chosen,
  onSearch,
  onChange,
  label,
  placeholder = "choose one",
  hint = "Type to search",
}: {
  value: string;
  /** What fits the text that was last searched for. */
  found: readonly Found[];
  /** The words for the value, when it is not among what is found now. */
  chosen?: string;
  onSearch: (text: string) => void;
  onChange: (value: string) => void;
  label: string;
  placeholder?: string;
  hint?: string;
}) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const field = useRef<HTMLInputElement>(null);
  const search = (next: string) => {
    setText(next);
    onSearch(next);
  };
  const turn = (next: boolean) => {
    setOpen(next);
    if (!next) search("");
  };
  /** A letter at the closed field begins the search with it. */
  const onKey = (event: KeyboardEvent) => {
    const { key, ctrlKey, metaKey, altKey } = event;
    if (key.length > 1 || key === " " || ctrlKey || metaKey || altKey) return;
    event.preventDefault();
    event.stopPropagation();
    search(key);
    setOpen(true);
  };
  const words = found.find((each) => each.value === value)?.label ?? chosen;
  return (
    <Popover
      open={open}
      onOpenChange={turn}
      label={label}
      onTakeFocus={(event) => {
        // What is typed goes on behind the letter that opened it.
        event.preventDefault();
        field.current?.focus();
      }}
      className="w-[min(460px,90vw)] !p-0"
      trigger={
        <button
          type="button"
          aria-haspopup="listbox"
          aria-label={`${label}: ${words ?? placeholder}`}
          className={fieldClass(false, "select")}
          onKeyDown={onKey}
        >
          <span className={`truncate ${words ? "" : "text-ink-soft"}`}>{words ?? placeholder}</span>
          <ChevronDown size={14} aria-hidden="true" className="select-sign" />
        </button>
      }
    >
      <Command shouldFilter={false} label={label} loop>
        <Command.Input
          ref={field}
          className="combobox-text"
          aria-label={hint}
          placeholder={hint}
          maxLength={200}
          value={text}
          onValueChange={search}
        />
        <Command.List className="max-h-[260px] overflow-y-auto p-1">
          <Command.Empty className="px-2 py-1.5 text-ink-soft">Nothing fits this.</Command.Empty>
          {found.map((each) => (
            <Command.Item
              key={each.value}
              value={each.value}
              className="option"
              onSelect={() => {
                onChange(each.value);
                turn(false);
              }}
            >
              <span className="min-w-0 truncate">{each.label}</span>
              {each.value === value && (
                <Check size={14} aria-hidden="true" className="option-sign" />
              )}
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Popover>
  );
}
