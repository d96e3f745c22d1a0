"use client";
import { useRef, useState, type ClipboardEvent, type FormEvent, type KeyboardEvent } from "react";
import type { Card } from "@/core/board/card";
import type { Adding } from "@/core/item/adding/contract";
import { linesIn } from "@/core/item/adding/lines";
import { counted } from "@/core/formats/counted";
import { MOST_TITLE } from "@/core/item/fields";
import { Button } from "@/ui/kit/button";
import { TextArea, TextInput } from "@/ui/kit/field";
import { FormProblem } from "@/ui/kit/note";
import { problemOf } from "@/ui/kit/request";
import { Select } from "@/ui/kit/select";
import type { LookHandle } from "@/ui/view/use-look";
import { useAdding, type AddPlace } from "./use-adding";

/** How far adding several has come. */
interface Progress {
  done: number;
  of: number;
}

/**
 * Adds items at a place: a title, Enter, the next. What is pasted as several lines becomes one item
 * each. Says before Enter where an item will be that will not show here.
 */
export function AddLine({
  handle,
  place,
  onMade,
  onLeave,
}: {
  handle: LookHandle;
  place: AddPlace;
  /** After one was made: takes it where it belongs. */
  onMade: (card: Card, adding: Adding) => Promise<void> | void;
  onLeave: () => void;
}) {
  const { adding, error, setTypeId, make } = useAdding(handle, place);
  const [text, setText] = useState("");
  const [several, setSeveral] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [progress, setProgress] = useState<Progress | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const field = useRef<HTMLInputElement & HTMLTextAreaElement>(null);
  const lines = linesIn(text);

  const addAll = async (event?: FormEvent) => {
    event?.preventDefault();
    if (!adding || progress || lines.titles.length === 0) return;
    if (lines.problem) return setProblem(lines.problem);
    setProblem(null);
    const { titles } = lines;
    let made: Card | null = null;
    for (const [i, title] of titles.entries()) {
      setProgress({ done: i, of: titles.length });
      try {
        made = await make(adding, title);
        await onMade(made, adding);
      } catch (failure) {
        const { sentence, help } = problemOf(failure);
        setProblem(`${sentence} ${help}`);
        // What was not made stays to be mended.
        setText(titles.slice(i).join("\n"));
        return setProgress(null);
      }
    }
    setProgress(null);
    setText("");
    setSeveral(false);
    const what = titles.length === 1 ? `${made!.key} is` : `${titles.length} items are`;
    setTold(`${what} added. The next one, or Esc.`);
    field.current?.focus();
  };
  const onPaste = (event: ClipboardEvent) => {
    const pasted = event.clipboardData.getData("text/plain");
    if (!/[\r\n]/.test(pasted.trim())) return;
    event.preventDefault();
    setText(text === "" ? pasted.trim() : `${text}\n${pasted.trim()}`);
    setSeveral(true);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.key === "Escape") {
      event.preventDefault();
      onLeave();
    } else if (event.key === "Enter" && (!several || event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      void addAll();
    }
  };
  const typed = {
    ref: field,
    autoFocus: true,
    "aria-label": `Title of a new item at ${place.words}`,
    value: text,
    onKeyDown,
    onPaste,
    onChange: (event: { target: { value: string } }) => setText(event.target.value),
  };
  return (
    <form className="add-line" aria-label={`Add at ${place.words}`} onSubmit={addAll}>
      {several ? (
        <TextArea {...typed} rows={Math.min(8, lines.titles.length + 1)} />
      ) : (
        <TextInput {...typed} placeholder="What is to be done?" maxLength={MOST_TITLE * 2} />
      )}
      <div className="flex flex-wrap items-center gap-x-1.5 text-[12px] text-ink-soft">
        {adding && (
          <>
            <span>as</span>
            <Select
              label="Type"
              words
              value={adding.typeId}
              options={adding.types.map(({ id, name }) => ({ value: id, label: name }))}
              onChange={setTypeId}
            />
          </>
        )}
        <span className="flex-1" />
        {progress && progress.of > 1 ? (
          <span role="status">
            {progress.done} of {progress.of}
          </span>
        ) : several && lines.titles.length > 0 ? (
          <Button small type="submit" look="accent" disabled={!adding}>
            Add {counted(lines.titles.length, "item")}
          </Button>
        ) : (
          <span>
            <kbd>Enter</kbd> adds, <kbd>Esc</kbd> leaves
          </span>
        )}
      </div>
      {adding?.elsewhere && <p className="add-elsewhere">{adding.elsewhere}</p>}
      {(problem ?? (several ? lines.problem : null)) && (
        <FormProblem>{problem ?? lines.problem}</FormProblem>
      )}
      {error && <FormProblem>{problemOf(error).sentence}</FormProblem>}
      <p role="status" className="text-[12px] text-ink-soft">
        {told}
      </p>
    </form>
  );
}
