"use client";
import { useId, useRef, useState, type FormEvent, type KeyboardEvent } from "react";
import { counted } from "@/core/formats/counted";
import { fileInWords, type ItemFileView } from "@/core/item/item-file";
import type { Audience } from "@/core/talk/comment";
import { namedIn } from "@/core/talk/named";
import { namesFor, namingAt, withName, type NamingNow } from "@/core/talk/naming-now";
import { Button, TextButton } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { TextArea } from "@/ui/kit/field";
import { tellProblem } from "@/ui/kit/notice";
import { useKeptText } from "@/ui/kit/use-kept-text";
import type { ItemHandle } from "@/ui/item/use-item";
import { useUploads } from "@/ui/item/use-uploads";
import { NameChoices } from "./name-choices";
import { SaidWords } from "./said-words";

const LONGEST = 20_000;

interface Props {
  handle: ItemHandle;
  /** The comment that is answered. */
  answers?: string;
  /** The comment that is changed. */
  edits?: { commentId: string; body: string };
  autoFocus?: boolean;
  onDone?: () => void;
}

/** Where something is said. What is typed stays in the browser until it is stored. */
export function Composer({ handle, answers, edits, autoFocus, onDone }: Props) {
  const { view, send } = handle;
  const { talk } = view;
  const [draft, setDraft] = useKeptText(`${view.key} ${answers ?? ""}`);
  const [changed, setChanged] = useState(edits?.body ?? "");
  const [body, setBody] = edits ? [changed, setChanged] : [draft, setDraft];
  const [audience, setAudience] = useState<Audience>("team");
  const [asks, setAsks] = useState(false);
  const [preview, setPreview] = useState(false);
  const [busy, setBusy] = useState(false);
  const outside = audience === "reporters";
  const mayReachReporters =
    !answers && !edits && view.reports.length > 0 && talk.closed !== "members";
  const written = body.trim() !== "";
  const store = async (event?: FormEvent) => {
    event?.preventDefault();
    if (!written || busy) return;
    setBusy(true);
    try {
      if (edits) await send({ kind: "edit comment", commentId: edits.commentId, body });
      else if (outside) await send({ kind: "ask", body }, "It goes to the reporters.");
      else await send({ kind: "comment", body, answersId: answers, asks: asks || undefined });
      if (!edits) setDraft("");
      setAsks(false);
      setPreview(false);
      setAudience("team");
      onDone?.();
    } catch (error) {
      tellProblem(error);
    }
    setBusy(false);
  };
  const uploads = useUploads(view.key, (file) => {
    setBody((before) => withFile(before, view.key, file));
    return handle.reload();
  });
  const named = namedIn(body, talk.nameable);
  const names = named.people.length + named.teams.length > 0;
  const mayAsk = !edits && !outside && (names || view.item.assigneeId !== null);
  return (
    <form onSubmit={(e) => void store(e)} className="composer" data-audience={audience}>
      {preview ? (
        <div className="composer-preview" aria-label="How it will look">
          <SaidWords text={body} known={talk} />
        </div>
      ) : (
        <WordsField
          body={body}
          onChange={setBody}
          nameable={outside ? [] : talk.nameable}
          label={edits ? "Change what you said" : answers ? "Write an answer" : "Write a comment"}
          hint={outside ? "Write to the reporters …" : "Write to the team, @ names somebody …"}
          autoFocus={autoFocus}
          onStore={() => void store()}
          onLeave={onDone}
          onFiles={outside || !view.rights.edit ? undefined : uploads.send}
        />
      )}
      {uploads.onTheWay.map(({ id, name, part, stop }) => (
        <p key={id} className="flex items-center gap-2 text-[12.5px] text-ink-soft">
          <span className="min-w-0 flex-1 truncate">{name}</span>
          {Math.round(part * 100)} %
          <TextButton aria-label={`Stop sending ${name}`} onClick={stop}>
            Stop
          </TextButton>
        </p>
      ))}
      {outside && (
        <p className="composer-outside">{reachWords(talk.reporters, view.votes.reports)}</p>
      )}
      <div className="composer-foot">
        {mayReachReporters && (
          <span role="group" aria-label="Whom it is for" className="composer-audience">
            {(["team", "reporters"] as const).map((one) => (
              <button
                key={one}
                type="button"
                aria-pressed={audience === one}
                onClick={() => setAudience(one)}
              >
                {one === "team" ? "to the team" : `to ${counted(view.reports.length, "reporter")}`}
              </button>
            ))}
          </span>
        )}
        {mayAsk && written && (
          <Check checked={asks} onChange={setAsks}>
            {names ? "wants an answer" : "asks whoever has it"}
          </Check>
        )}
        <span className="flex-1" />
        {written && (
          <Button small look="quiet" onClick={() => setPreview(!preview)}>
            {preview ? "Write on" : "How it looks"}
          </Button>
        )}
        {onDone && (
          <Button small look="quiet" onClick={onDone}>
            Leave it
          </Button>
        )}
        {(written || onDone) && (
          <Button type="submit" small look="strong" disabled={busy || !written}>
            {edits ? "Store it" : outside ? "Send it out" : answers ? "Answer" : "Add comment"}
          </Button>
        )}
      </div>
    </form>
  );
}

/** A text with a file that was put to the item, behind what is written: a picture is drawn there. */
function withFile(body: string, itemKey: string, file: ItemFileView): string {
  const words = fileInWords(itemKey, file);
  return body === "" ? `${words}\n` : `${body.trimEnd()}\n\n${words}\n`;
}

const reachWords = (mails: readonly string[], told: number): string =>
  mails.length > 0
    ? `Goes out by mail to ${mails.join(", ")}, and stands on their private page.`
    : `Stands on the private page of ${counted(Math.max(1, told), "person", "people")}: no address is known.`;

/** The field that is written in; after an @ it offers names. */
function WordsField({
  body,
  onChange,
  nameable,
  label,
  hint,
  autoFocus,
  onStore,
  onLeave,
  onFiles,
}: {
  body: string;
  onChange: (body: string) => void;
  nameable: Parameters<typeof namesFor>[1];
  label: string;
  hint: string;
  autoFocus?: boolean;
  onStore: () => void;
  onLeave?: () => void;
  /** What is done with files that are pasted or dropped. */
  onFiles?: (files: File[]) => void;
}) {
  const listId = useId();
  const field = useRef<HTMLTextAreaElement>(null);
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
  const press = (event: KeyboardEvent) => {
    if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) return onStore();
    if (event.key === "Escape" && !open && onLeave && body === "") return onLeave();
    if (!open) return;
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step !== undefined) setAt((at + step + choices.length) % choices.length);
    else if (event.key === "Enter" || event.key === "Tab") put(choices[at].name);
    else if (event.key === "Escape") setNaming(null);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const takeFiles = (event: { preventDefault: () => void }, { files }: DataTransfer) => {
    if (files.length === 0 || !onFiles) return;
    event.preventDefault();
    onFiles([...files]);
  };
  return (
    <div className="relative">
      <TextArea
        ref={field}
        aria-label={label}
        placeholder={hint}
        role="combobox"
        aria-expanded={open}
        aria-controls={listId}
        aria-autocomplete="list"
        aria-activedescendant={open ? `${listId}-${at}` : undefined}
        maxLength={LONGEST}
        rows={2}
        className="[field-sizing:content] max-h-80"
        autoFocus={autoFocus}
        value={body}
        onChange={(event) => {
          onChange(event.target.value);
          look();
        }}
        onSelect={look}
        onBlur={() => setNaming(null)}
        onKeyDown={press}
        onPaste={(event) => takeFiles(event, event.clipboardData)}
        onDrop={(event) => takeFiles(event, event.dataTransfer)}
      />
      <NameChoices id={listId} choices={choices} at={at} onTake={put} />
    </div>
  );
}
