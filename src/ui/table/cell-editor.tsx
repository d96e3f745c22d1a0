"use client";
import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { useRef, useState, type KeyboardEvent } from "react";
import { factOf, ownFieldOf, type FactName, type FactValue } from "@/core/condition/facts";
import { optionsOf, type Option, type Vocabulary } from "@/core/condition/vocabulary";
import { readDay } from "@/core/calendar/month";
import { foldCase } from "@/core/formats/fold-case";
import { itemContract } from "@/core/item/contract";
import { itemField, type EditableField } from "@/core/item/fields";
import type { TableRow } from "@/core/item/list/table";
import { projectKeyOf } from "@/core/item/key";
import { readSize, sizeWords, stepsAsText } from "@/core/plan/size-scale";
import { TERM_WORDS, type TermKind } from "@/core/item/terms/term";
import { TermChips, TermSearch } from "@/ui/item/terms/term-editor";
import { TextInput } from "@/ui/kit/field";
import { Popover } from "@/ui/kit/popover";
import { queryOf } from "@/ui/kit/request";
import { useSizes } from "@/ui/kit/sizes";

/** Where the focus goes on when a cell is left: down, to the right, or nowhere. */
export type GoesOn = "down" | "right" | null;

interface Editing {
  row: Pick<TableRow, "card">;
  fact: FactName;
  value: FactValue;
  vocabulary: Vocabulary;
  onStore: (value: unknown, goesOn: GoesOn) => void;
  onLeave: () => void;
}

/** Changes what an item says of a fact, in the cell where it stands. */
export function CellEditor(editing: Editing) {
  const { fact, value, vocabulary, onStore } = editing;
  const { kind } = factOf(fact);
  if (kind === "choice")
    return (
      <ChoiceEditor
        {...editing}
        options={choicesFor(fact, editing.value, vocabulary)}
        onStore={onStore}
      />
    );
  if (kind === "flag")
    return (
      <ChoiceEditor
        {...editing}
        options={[
          { id: "true", label: "yes" },
          { id: "false", label: "no" },
        ]}
        onStore={(chosen, goesOn) => onStore(chosen === "true", goesOn)}
      />
    );
  const editor = ownFieldOf(fact) ? null : itemField(fact as EditableField).editor;
  if (editor?.kind === "terms") return <TermsCell {...editing} kind={editor.of} />;
  if (fact === "estimate") return <SizeEditor {...editing} />;
  const text = value === null ? "" : String(value);
  return <TypedEditor {...editing} text={text} read={reading[kind as keyof typeof reading]} />;
}

/** A size, by its name on the project's scale or as a number. */
function SizeEditor(editing: Editing) {
  const scale = useSizes();
  const { value } = editing;
  const text = value === null ? "" : sizeWords(value as number, scale).replace(" h", "");
  const read = (written: string): ReadValue => {
    const size = readSize(written, scale);
    return size === null ? { wrong: `Write ${stepsAsText(scale)}, or a number.` } : { value: size };
  };
  return <TypedEditor {...editing} text={text} read={read} />;
}

/** Labels or parts, chosen over the cell; they are stored when it is left. */
function TermsCell({ row, kind, value, onStore, onLeave }: Editing & { kind: TermKind }) {
  const before = (value ?? []) as string[];
  const [names, setNames] = useState(before);
  const chooses = { projectKey: projectKeyOf(row.card.key), kind, names };
  const leave = () => (names.join("\n") === before.join("\n") ? onLeave() : onStore(names, null));
  return (
    <Popover
      open
      onOpenChange={(open) => !open && leave()}
      label={`Choose ${TERM_WORDS[kind].several}`}
      className="w-[300px] !p-0"
      onReturnFocus={(event) => event.preventDefault()}
      trigger={<span className="absolute inset-0" />}
    >
      {names.length > 0 && (
        <div className="flex flex-wrap gap-1 border-b border-line p-1.5">
          <TermChips {...chooses} onChange={setNames} />
        </div>
      )}
      <TermSearch
        {...chooses}
        onAdd={(name) => setNames([...names, name])}
        onTakeLast={() => setNames(names.slice(0, -1))}
      />
    </Popover>
  );
}

/** What can be chosen of a fact, with nothing where it may say nothing. */
function choicesFor(fact: FactName, value: unknown, vocabulary: Vocabulary): Option[] {
  const options = optionsOf(fact, vocabulary).filter(({ id, past }) => !past || id === value);
  if (!factOf(fact).nullable) return options;
  const own = ownFieldOf(fact);
  const editor = own ? null : itemField(fact as EditableField).editor;
  const none = editor?.kind === "choice" ? (editor.none ?? "Not set") : "Not set";
  return [{ id: "", label: none }, ...options];
}

function ChoiceEditor({
  options,
  value,
  onStore,
  onLeave,
}: Pick<Editing, "value" | "onStore" | "onLeave"> & { options: readonly Option[] }) {
  return (
    <ChoiceList
      options={options}
      current={value === null ? "" : String(value)}
      onChoose={(id) => onStore(id === "" ? null : id, null)}
      onLeave={onLeave}
    />
  );
}

/** A list that is written into, open over the cell. */
function ChoiceList({
  options,
  current,
  empty = "Nothing is called so.",
  onChoose,
  onLeave,
}: {
  options: readonly Option[];
  current: string;
  empty?: string;
  onChoose: (id: string) => void;
  onLeave: () => void;
}) {
  const [text, setText] = useState("");
  const found = options.filter(({ label }) => foldCase(label).includes(foldCase(text.trim())));
  return (
    <Popover
      open
      onOpenChange={(open) => !open && onLeave()}
      label="Choose"
      className="w-[240px] !p-0"
      onReturnFocus={(event) => event.preventDefault()}
      trigger={<span className="absolute inset-0" />}
    >
      <Command shouldFilter={false} label="Choose" loop defaultValue={current}>
        <Command.Input
          autoFocus
          className="combobox-text"
          aria-label="Type to choose"
          placeholder="type to choose"
          maxLength={100}
          value={text}
          onValueChange={setText}
        />
        <Command.List className="max-h-[260px] overflow-y-auto p-1">
          <Command.Empty className="px-2 py-1.5 text-ink-soft">{empty}</Command.Empty>
          {found.map(({ id, label }) => (
            <Command.Item key={id} value={id} className="option" onSelect={() => onChoose(id)}>
              <span className={`truncate ${id === current ? "font-semibold" : ""}`}>{label}</span>
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Popover>
  );
}

const today = () => new Date().toISOString().slice(0, 10);

/** What was typed as a value; a sentence where it is none. */
type ReadValue = { value: unknown } | { wrong: string };

const reading = {
  text: (written: string): ReadValue => ({ value: written }),
  number: (written: string): ReadValue => {
    const number = Number(written.replace(",", "."));
    return Number.isFinite(number)
      ? { value: number }
      : { wrong: "Write a number, like 3 or 2.5." };
  },
  date: (written: string): ReadValue => {
    const day = readDay(written, today());
    return day ? { value: day } : { wrong: "Write a day like 2026-11-28 or 28 Nov." };
  },
};

/** The same where nothing may have been typed. */
function valueOf(text: string, read: (written: string) => ReadValue, required: boolean): ReadValue {
  const written = text.trim();
  if (written !== "") return read(written);
  return required ? { wrong: "It needs a text." } : { value: null };
}

function TypedEditor({
  text: given,
  read,
  fact,
  onStore,
  onLeave,
}: Editing & { text: string; read: (written: string) => ReadValue }) {
  const [text, setText] = useState(given);
  const [wrong, setWrong] = useState<string | null>(null);
  // What has ended takes the focus with it, and that is no second end.
  const ended = useRef(false);
  const store = (goesOn: GoesOn) => {
    if (ended.current) return;
    if (text === given) return leave();
    const typed = valueOf(text, read, fact === "title");
    if ("wrong" in typed) return setWrong(typed.wrong);
    ended.current = true;
    onStore(typed.value, goesOn);
  };
  const leave = () => {
    ended.current = true;
    onLeave();
  };
  const onKey = (event: KeyboardEvent) => {
    const { key } = event;
    event.stopPropagation();
    if (key !== "Enter" && key !== "Tab" && key !== "Escape") return;
    event.preventDefault();
    if (key === "Escape") leave();
    else store(key === "Enter" ? "down" : "right");
  };
  return (
    <span className="relative w-full">
      <TextInput
        autoFocus
        className="cell-text"
        aria-label="New value"
        aria-invalid={wrong !== null}
        inputMode={factOf(fact).kind === "number" ? "decimal" : undefined}
        maxLength={300}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setWrong(null);
        }}
        onFocus={(event) => event.target.select()}
        onBlur={() => (wrong === null ? store(null) : leave())}
        onKeyDown={onKey}
      />
      {wrong && (
        <span role="alert" className="popover absolute top-full left-0 z-40 w-max !py-1 text-alarm">
          {wrong}
        </span>
      )}
    </span>
  );
}

/** The moves that an item can make from where it is. */
export function MoveEditor({
  row,
  onMove,
  onLeave,
}: {
  row: TableRow;
  onMove: (to: string, toName: string) => void;
  onLeave: () => void;
}) {
  const { data } = useQuery(queryOf(itemContract.read, { params: { key: row.card.key } }));
  const moves = data?.transitions ?? [];
  return (
    <ChoiceList
      options={moves.map(({ to, verb, toName }) => ({ id: to, label: `${verb}: ${toName}` }))}
      current=""
      empty={data ? "It cannot move on from here." : "Looking up its moves…"}
      onChoose={(to) => onMove(to, moves.find((move) => move.to === to)!.toName)}
      onLeave={onLeave}
    />
  );
}
