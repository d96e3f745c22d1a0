"use client";
import { useId, useRef, useState, type KeyboardEvent } from "react";
import { setFieldText } from "text-field-edit";
import { fileInWords, type ItemFileView } from "@/core/item/item-file";
import { nextLine, type Marked } from "@/core/talk/markup";
import type { Nameable } from "@/core/talk/named";
import { namesFor, namingAt, withName, type NamingNow } from "@/core/talk/naming-now";
import { useUploads } from "@/ui/item/use-uploads";
import { TextButton } from "@/ui/kit/button";
import { TextArea } from "@/ui/kit/field";
import { NameChoices } from "./name-choices";
import { toolOfKey, WritingTools } from "./writing-tools";

const LONGEST = 20_000;

/** An item that files are put to as they are pasted or dropped into a text about it. */
export interface AttachesTo {
  itemKey: string;
  /** When one is there. */
  onThere: () => unknown;
}

interface Props {
  label: string;
  hint?: string;
  body: string;
  onChange: (body: string | ((before: string) => string)) => void;
  rows: number;
  /** Whom it may name, behind an @. */
  nameable: readonly Nameable[];
  /** Left out where no files may be put to anything. */
  attachesTo?: AttachesTo;
  autoFocus?: boolean;
  onStore: () => void;
  /** On Escape. */
  onLeave?: () => void;
}

/**
 * Where Markdown is written: with signs for those who do not know it, names after an @, lists that go
 * on, and files that are pasted or dropped.
 */
export function WritingField({ attachesTo, onChange, ...rest }: Props) {
  if (!attachesTo) return <WordsField {...rest} onChange={onChange} />;
  return <AttachingField {...rest} onChange={onChange} attachesTo={attachesTo} />;
}

function AttachingField({
  attachesTo: { itemKey, onThere },
  ...rest
}: Props & { attachesTo: AttachesTo }) {
  const { onTheWay, send } = useUploads(itemKey, (file) => {
    rest.onChange((before) => withFile(before, itemKey, file));
    return onThere();
  });
  return (
    <>
      <WordsField {...rest} onFiles={send} />
      {onTheWay.map(({ id, name, part, stop }) => (
        <p key={id} className="flex items-center gap-2 text-[12.5px] text-ink-soft">
          <span className="min-w-0 flex-1 truncate">{name}</span>
          {Math.round(part * 100)} %
          <TextButton aria-label={`Stop sending ${name}`} onClick={stop}>
            Stop
          </TextButton>
        </p>
      ))}
    </>
  );
}

/** A text with a file that was put to the item, behind what is written: a picture is drawn there. */
function withFile(body: string, itemKey: string, file: ItemFileView): string {
  const words = fileInWords(itemKey, file);
  return body === "" ? `${words}\n` : `${body.trimEnd()}\n\n${words}\n`;
}

function WordsField({
  label,
  hint,
  body,
  onChange,
  rows,
  nameable,
  autoFocus,
  onStore,
  onLeave,
  onFiles,
}: Omit<Props, "attachesTo"> & { onFiles?: (files: File[]) => void }) {
  const field = useRef<HTMLTextAreaElement>(null);
  const names = useNames(field, body, nameable, onChange);
  /** As somebody would have typed it, so that it can be undone. */
  const apply = (change: (marked: Marked) => Marked | null): boolean => {
    const area = field.current;
    if (!area) return false;
    const { value: text, selectionStart: from, selectionEnd: to } = area;
    const next = change({ text, from, to });
    if (!next) return false;
    area.focus();
    if (next.text !== text) setFieldText(area, next.text);
    area.setSelectionRange(next.from, next.to);
    return true;
  };
  const press = (event: KeyboardEvent) => {
    if (names.press(event)) return;
    const held = event.ctrlKey || event.metaKey;
    if (event.key === "Enter" && held) return onStore();
    if (event.key === "Escape" && onLeave) return onLeave();
    const tool = held && !event.altKey && !event.shiftKey ? toolOfKey(event.key) : undefined;
    const done = tool
      ? apply(tool.change)
      : event.key === "Enter" && !event.shiftKey && apply(nextLine);
    if (done) event.preventDefault();
  };
  const takeFiles = (event: { preventDefault: () => void }, { files }: DataTransfer) => {
    if (files.length === 0 || !onFiles) return;
    event.preventDefault();
    onFiles([...files]);
  };
  return (
    <div className="writing">
      <TextArea
        ref={field}
        aria-label={label}
        placeholder={hint}
        {...names.attributes}
        maxLength={LONGEST}
        rows={rows}
        autoFocus={autoFocus}
        value={body}
        onChange={(event) => {
          onChange(event.target.value);
          names.look();
        }}
        onSelect={names.look}
        onBlur={names.leave}
        onKeyDown={press}
        onPaste={(event) => takeFiles(event, event.clipboardData)}
        onDrop={(event) => takeFiles(event, event.dataTransfer)}
      />
      {names.choices}
      <WritingTools onTool={apply} onFiles={onFiles} />
    </div>
  );
}

/** What is offered after an @, by keys and by the pointer. */
function useNames(
  field: React.RefObject<HTMLTextAreaElement | null>,
  body: string,
  nameable: readonly Nameable[],
  onChange: (body: string) => void,
) {
  const listId = useId();
  const [naming, setNaming] = useState<NamingNow | null>(null);
  const [at, setAt] = useState(0);
  const choices = naming ? namesFor(naming.words, nameable) : [];
  const open = choices.length > 0;
  const look = () => {
    const caret = field.current?.selectionStart ?? 0;
    setNaming(namingAt(field.current?.value ?? "", caret));
    setAt(0);
  };
  const put = (name: string) => {
    if (!naming || !field.current) return;
    const caret = field.current.selectionStart;
    const next = withName(body, naming, { caret, name });
    onChange(next.text);
    setNaming(null);
    requestAnimationFrame(() => field.current?.setSelectionRange(next.caret, next.caret));
  };
  /** @returns whether the key was for the choice of names */
  const press = (event: KeyboardEvent): boolean => {
    if (!open || event.ctrlKey || event.metaKey) return false;
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step !== undefined) setAt((at + step + choices.length) % choices.length);
    else if (event.key === "Enter" || event.key === "Tab") put(choices[at].name);
    else if (event.key === "Escape") setNaming(null);
    else return false;
    event.preventDefault();
    event.stopPropagation();
    return true;
  };
  return {
    look,
    leave: () => setNaming(null),
    press,
    attributes: {
      role: "combobox",
      "aria-expanded": open,
      "aria-controls": listId,
      "aria-autocomplete": "list",
      "aria-activedescendant": open ? `${listId}-${at}` : undefined,
    } as const,
    choices: <NameChoices id={listId} choices={choices} at={at} onTake={put} />,
  };
}
