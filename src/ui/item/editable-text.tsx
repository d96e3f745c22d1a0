"use client";
import { Note } from "@/ui/kit/note";
import { TextButton, Button } from "@/ui/kit/button";
import { useState } from "react";
import { problemOf, type Problem } from "@/ui/kit/request";
import { Words } from "@/ui/kit/words";
import type { KnownInWords } from "@/ui/talk/name-in-words";
import { SaidWords } from "@/ui/talk/said-words";
import { WritingField, type AttachesTo } from "@/ui/talk/writing-field";

/**
 * A longer text that turns into an editor on request. When somebody else has changed it meanwhile,
 * both texts are shown and the person decides; nothing that was typed goes away.
 */
export function EditableText({
  label,
  value,
  version,
  empty,
  mayEdit,
  known,
  attachesTo,
  onSave,
}: {
  label: string;
  value: string;
  /** Version of the item that `value` is from. */
  version: number;
  empty: string;
  mayEdit: boolean;
  /** What it may name. */
  known: KnownInWords;
  /** The item that files are put to which are pasted into it. */
  attachesTo: AttachesTo;
  /**
   * Stores the text, based on the version that the person saw when they began, or saw since in a
   * conflict.
   */
  onSave: (text: string, seenVersion: number) => Promise<void>;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const [seen, setSeen] = useState(version);
  const begin = () => {
    setSeen(version);
    setDraft(value);
  };
  const save = async () => {
    if (draft === null) return;
    setBusy(true);
    try {
      await onSave(draft, seen);
      setDraft(null);
      setProblem(null);
    } catch (error) {
      const refused = problemOf(error);
      setProblem(refused);
      // Whoever has now seen the other text decides knowing it.
      if (refused.conflict.length > 0) setSeen(refused.version ?? version);
    }
    setBusy(false);
  };
  const other = problem?.conflict[0]?.current;
  return (
    <section>
      <div className="mb-1 flex items-baseline justify-between">
        <h3 className="text-[13px]">{label}</h3>
        {mayEdit && draft === null && (
          <TextButton className="text-[12.5px]" onClick={begin}>
            {value ? "Edit" : "Write"}
            <span className="sr-only"> {label.toLowerCase()}</span>
          </TextButton>
        )}
      </div>
      {draft === null ? (
        value ? (
          <SaidWords text={value} known={known} />
        ) : (
          <p className="text-ink-soft">{empty}</p>
        )
      ) : (
        <div className="flex flex-col gap-2">
          <WritingField
            label={label}
            rows={7}
            autoFocus
            body={draft}
            onChange={(next) =>
              setDraft((now) => (typeof next === "string" ? next : next(now ?? "")))
            }
            nameable={known.nameable}
            attachesTo={attachesTo}
            onStore={() => void save()}
            onLeave={draft === value ? () => setDraft(null) : undefined}
          />
          {problem && (
            <Note kind="problem">
              <p className="font-semibold">{problem.sentence}</p>
              <p>{problem.help}</p>
              {typeof other === "string" && (
                <>
                  <p className="mt-2 font-semibold">Their text:</p>
                  <div className="mt-1 max-h-40 overflow-y-auto bg-sheet p-2">
                    <Words text={other || "(empty)"} />
                  </div>
                </>
              )}
            </Note>
          )}
          <div className="flex justify-end gap-2">
            <Button
              look="quiet"
              small
              onClick={() => {
                setDraft(null);
                setProblem(null);
              }}
            >
              {typeof other === "string" ? "Keep theirs" : "Leave as it was"}
            </Button>
            <Button disabled={busy} look="accent" small onClick={() => void save()}>
              {typeof other === "string" ? "Replace theirs with mine" : "Save text"}
            </Button>
          </div>
        </div>
      )}
    </section>
  );
}
