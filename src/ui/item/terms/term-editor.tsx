"use client";
import { Command } from "cmdk";
import { Plus, X } from "lucide-react";
import Link from "next/link";
import { useState, type KeyboardEvent } from "react";
import { isSameTerm } from "@/core/item/terms/current-name";
import {
  LONGEST_TERM,
  MOST_TERMS_OF_ITEM,
  TERM_WORDS,
  type TermKind,
} from "@/core/item/terms/term";
import { termsOffered } from "@/core/item/terms/view";
import { Popover } from "@/ui/kit/popover";
import { TermName } from "./term-name";
import { useTerms } from "./use-terms";

/** Chooses labels or parts, those that there are or new ones, by typing. */
export function TermEditor({
  projectKey,
  kind,
  names,
  label,
  locked = false,
  onChange,
}: {
  projectKey: string;
  kind: TermKind;
  names: readonly string[];
  /** What they are, where that is not simply those of something. */
  label?: string;
  locked?: boolean;
  onChange: (names: string[]) => void;
}) {
  const [open, setOpen] = useState(false);
  const { one, several } = TERM_WORDS[kind];
  return (
    <div
      role="group"
      aria-label={label ?? several}
      className="flex min-w-0 flex-wrap items-center gap-1"
    >
      <TermChips
        projectKey={projectKey}
        kind={kind}
        names={names}
        onChange={locked ? undefined : onChange}
      />
      {locked && names.length === 0 && <span className="px-1 text-ink-soft">none</span>}
      {!locked && names.length < MOST_TERMS_OF_ITEM && (
        <Popover
          open={open}
          onOpenChange={setOpen}
          label={`Add a ${one}`}
          className="w-[280px] !p-0"
          trigger={
            <button type="button" className="term-add" aria-haspopup="listbox">
              <Plus size={12} aria-hidden="true" />
              {names.length === 0 ? `add a ${one}` : "add"}
            </button>
          }
        >
          <TermSearch
            projectKey={projectKey}
            kind={kind}
            names={names}
            onAdd={(name) => onChange([...names, name])}
            onTakeLast={() => onChange(names.slice(0, -1))}
          />
        </Popover>
      )}
    </div>
  );
}

/** Labels or parts, each with a way to take it off where that may be done. */
export function TermChips({
  projectKey,
  kind,
  names,
  onChange,
}: {
  projectKey: string;
  kind: TermKind;
  names: readonly string[];
  onChange?: (names: string[]) => void;
}) {
  const { terms } = useTerms(projectKey);
  return names.map((name) => (
    <span key={name} className="term-chip">
      {kind === "part" ? (
        <Link
          className="min-w-0 hover:underline"
          prefetch={false}
          href={`/p/${projectKey}/plan/parts?${new URLSearchParams({ part: name })}`}
        >
          <TermName terms={terms} kind={kind} name={name} />
        </Link>
      ) : (
        <TermName terms={terms} kind={kind} name={name} />
      )}
      {onChange && (
        <button
          type="button"
          className="term-off"
          aria-label={`Take off ${name}`}
          onClick={() => onChange(names.filter((other) => other !== name))}
        >
          <X size={12} aria-hidden="true" />
        </button>
      )}
    </span>
  ));
}

/** The line that makes a new word, whatever is typed: it keeps the mark while one types on. */
const NEW_WORD = "+ a new word";

/** Finds labels or parts by typing, and takes a new one as it was typed. */
export function TermSearch({
  projectKey,
  kind,
  names,
  onAdd,
  onTakeLast,
}: {
  projectKey: string;
  kind: TermKind;
  names: readonly string[];
  onAdd: (name: string) => void;
  onTakeLast: () => void;
}) {
  const { terms } = useTerms(projectKey);
  const [typed, setTyped] = useState("");
  const { one } = TERM_WORDS[kind];
  const offered = termsOffered(terms, { kind, typed, chosen: names }).slice(0, 40);
  const fresh = typed.replace(/\s+/g, " ").trim();
  const known = [...names, ...terms.filter((term) => term.kind === kind).map(({ name }) => name)];
  const isNew = fresh !== "" && !known.some((name) => isSameTerm(name, fresh));
  const add = (name: string) => {
    setTyped("");
    onAdd(name);
  };
  const onKey = (event: KeyboardEvent) => {
    // What is typed here is for this list alone, not for the screen behind it.
    if (event.key !== "Escape") event.stopPropagation();
    if (event.key === "Backspace" && typed === "") onTakeLast();
  };
  return (
    <Command shouldFilter={false} label={`Add a ${one}`} loop onKeyDown={onKey}>
      <Command.Input
        autoFocus
        className="combobox-text"
        aria-label={`Type a ${one}`}
        placeholder={`type a ${one}`}
        maxLength={LONGEST_TERM}
        value={typed}
        onValueChange={setTyped}
      />
      <Command.List className="max-h-[260px] overflow-y-auto p-1">
        {offered.length === 0 && !isNew && (
          <p className="px-2 py-1.5 text-ink-soft">
            {fresh === ""
              ? `No ${one} yet: type the first one.`
              : "It has that one already, or it is not used any more."}
          </p>
        )}
        {offered.map(({ name, meaning, open }) => (
          <Command.Item key={name} value={name} className="option" onSelect={() => add(name)}>
            <span className="flex min-w-0 flex-1 flex-col">
              <TermName terms={terms} kind={kind} name={name} />
              {meaning && <span className="truncate text-[12px] text-ink-soft">{meaning}</span>}
            </span>
            <span className="ml-2 shrink-0 text-[12px] text-ink-soft">{open} open</span>
          </Command.Item>
        ))}
        {isNew && (
          <Command.Item value={NEW_WORD} className="option" onSelect={() => add(fresh)}>
            <span className="min-w-0 truncate">
              New {one}: <b>{fresh}</b>
            </span>
          </Command.Item>
        )}
      </Command.List>
    </Command>
  );
}
