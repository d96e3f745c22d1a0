"use client";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import {
  noteSections,
  notesMarkdown,
  noteWords,
  type ReleaseNote,
} from "@/core/ship/release/release-notes";
import { Button, TextButton } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { copyText } from "@/ui/kit/copy-text";
import { TextArea } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { problemWords } from "@/ui/kit/request";
import { shortDate } from "@/ui/kit/time";
import { Words } from "@/ui/kit/words";
import type { ReleasePageHandle } from "./use-release-page";

/** The notes as they will be read, each line written in place; what is not for outside stands apart. */
export function ReleaseNotes({ handle }: { handle: ReleasePageHandle }) {
  const { view } = handle;
  const release = view.release!;
  const [open, setOpen] = useState<string | null>(null);
  const internal = view.notes.filter((one) => one.internal);
  const bare = view.notes.filter((one) => !one.internal && one.words.trim() === "");
  const out = view.outNotes;
  const markdown = out ?? notesMarkdown(release.name, view.notes);
  return (
    <aside aria-label="Notes" className="release-notes">
      <div className="flex items-baseline gap-2">
        <h2 className="flex-1 text-[15px]">
          {out === null ? "Notes, as they will be read" : "Notes, as they went out"}
        </h2>
        <Button
          small
          title="As Markdown"
          onClick={() => void copyText(markdown, "The notes are on the clipboard.")}
        >
          Copy
        </Button>
      </div>
      <div className="notes-sheet">
        <p className="text-[15px] font-bold">{release.name}</p>
        <p className="mb-2 text-[12.5px] text-ink-soft">
          {view.project.name}
          {release.dueOn && `, ${shortDate(release.dueOn)}`}
        </p>
        {out !== null ? (
          <Words text={out.split("\n").slice(2).join("\n")} />
        ) : (
          noteSections(view.notes).map(({ section, notes }) => (
            <section key={section} aria-label={section} className="mb-2">
              <h3 className="text-[13.5px]">{section}</h3>
              <ul className="notes-lines">
                {notes.map((note) => (
                  <NoteLine
                    key={note.itemId}
                    note={note}
                    handle={handle}
                    open={open === note.itemId}
                    onOpen={(wanted) => setOpen(wanted ? note.itemId : null)}
                  />
                ))}
              </ul>
            </section>
          ))
        )}
        {view.notes.length === 0 && (
          <p className="text-ink-soft">What is in the release stands here, by what it is.</p>
        )}
      </div>
      {out === null && (
        <>
          <p className="text-[12.5px] text-ink-soft">
            {bare.length > 0 &&
              `${counted(bare.length, "line says", "lines say")} only what the item is called. `}
            {internal.length > 0 && `${counted(internal.length, "is", "are")} not for outside:`}
          </p>
          {internal.length > 0 && (
            <ul className="notes-lines text-ink-soft">
              {internal.map((note) => (
                <NoteLine
                  key={note.itemId}
                  note={note}
                  handle={handle}
                  open={open === note.itemId}
                  onOpen={(wanted) => setOpen(wanted ? note.itemId : null)}
                />
              ))}
            </ul>
          )}
        </>
      )}
      {view.reporters > 0 && (
        <section aria-label="Who waits for it" className="text-[13px]">
          <h3 className="text-[13px]">Who waits for it</h3>
          <p>
            {view.reporters === 1 ? "1 person" : `${view.reporters} people`} reported what is in it
            {out === null ? ", and hear of it when it is out." : "."}
          </p>
        </section>
      )}
      <Public handle={handle} />
    </aside>
  );
}

/** Where anyone reads what went out, where the project wants that. */
function Public({ handle: { view, publish } }: { handle: ReleasePageHandle }) {
  const { published, rights } = view;
  if (!published.on && !rights.publish) return null;
  return (
    <section aria-label="For anyone" className="text-[13px]">
      <h3 className="text-[13px]">For anyone</h3>
      {rights.publish && (
        <Check checked={published.on} onChange={(on) => void publish(on)}>
          Notes that went out are read without an account
        </Check>
      )}
      {published.on && (
        <a className="link break-all" href={published.address} target="_blank" rel="noreferrer">
          {published.address}
        </a>
      )}
    </section>
  );
}

/** A line of the notes; a press writes it. */
function NoteLine({
  note,
  handle,
  open,
  onOpen,
}: {
  note: ReleaseNote;
  handle: ReleasePageHandle;
  open: boolean;
  onOpen: (open: boolean) => void;
}) {
  const words = noteWords(note);
  const may = handle.view.rights.plan;
  if (open)
    return (
      <li>
        <NoteForm note={note} handle={handle} onLeave={() => onOpen(false)} />
      </li>
    );
  return (
    <li>
      {may ? (
        <TextButton
          className="!text-ink text-left"
          aria-label={`Write what the notes say of ${note.key}: ${words}`}
          onClick={() => onOpen(true)}
        >
          {words}
        </TextButton>
      ) : (
        words
      )}
      {!note.finished && <span className="text-[12px] text-signal-ink"> not finished yet</span>}
    </li>
  );
}

function NoteForm({
  note,
  handle,
  onLeave,
}: {
  note: ReleaseNote;
  handle: ReleasePageHandle;
  onLeave: () => void;
}) {
  const [words, setWords] = useState(note.words || note.title);
  const [internal, setInternal] = useState(note.internal);
  const [problem, setProblem] = useState<string | null>(null);
  const keep = async () => {
    // What says no more than the item's title goes on to follow it.
    const said = words.trim() === note.title ? "" : words;
    const wrong = await handle.note(note, { ...note, words: said, internal });
    if (wrong) return setProblem(problemWords(wrong));
    onLeave();
  };
  return (
    <form
      aria-label={`What the notes say of ${note.key}`}
      className="flex flex-col gap-2 py-1"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <TextArea
        aria-label={`Words for ${note.key}`}
        rows={3}
        autoFocus
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      <Check checked={internal} onChange={setInternal}>
        Not for outside
      </Check>
      <FormFooter send="Keep it" problem={problem} onLeave={onLeave} />
    </form>
  );
}
