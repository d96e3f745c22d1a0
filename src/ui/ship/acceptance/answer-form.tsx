"use client";
import { useId, useState, type FormEvent } from "react";
import { Button } from "@/ui/kit/button";
import { TextArea } from "@/ui/kit/field";
import { FormProblem } from "@/ui/kit/note";
import { problemWords, type Problem } from "@/ui/kit/request";

/** What somebody says of one piece, or of all: accepting asks for a name, missing something for words too. */
export function AnswerForm({
  what,
  all = false,
  onlyMissing = false,
  onNameless,
  onSay,
}: {
  /** What it is about, for the names of the buttons. */
  what: string;
  all?: boolean;
  /** It was accepted: only what is missing after all is asked. */
  onlyMissing?: boolean;
  /** Says that a name is missing, and leads to where it is typed; nothing where whoever says it is known. */
  onNameless?: () => boolean;
  onSay: (accepted: boolean, words: string) => Promise<Problem | null>;
}) {
  const id = useId();
  const [missing, setMissing] = useState(onlyMissing);
  const [words, setWords] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const say = async (accepted: boolean) => {
    if (busy) return;
    if (onNameless?.()) return setProblem("Type your name first, at the top of this page.");
    setBusy(true);
    const wrong = await onSay(accepted, words);
    setBusy(false);
    setProblem(wrong && problemWords(wrong));
    if (wrong) return;
    setMissing(onlyMissing);
    setWords("");
  };
  const send = (event: FormEvent) => {
    event.preventDefault();
    void say(!missing);
  };
  return (
    <form onSubmit={send} aria-label={`Your word on ${what}`} className="answer-form">
      {missing && (
        <label htmlFor={id} className="flex flex-col gap-1 text-[13px] font-semibold">
          What is missing?
          <TextArea
            id={id}
            rows={3}
            autoFocus={!onlyMissing}
            maxLength={4_000}
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
        </label>
      )}
      <FormProblem>{problem}</FormProblem>
      <div className="flex flex-wrap gap-2">
        {missing ? (
          <>
            <Button type="submit" look="strong" disabled={busy || words.trim() === ""}>
              Say what is missing
            </Button>
            {!onlyMissing && (
              <Button look="quiet" onClick={() => setMissing(false)}>
                Leave it
              </Button>
            )}
          </>
        ) : (
          <>
            <Button type="submit" look="accent" disabled={busy}>
              {all ? "I accept all of it" : "I accept it"}
            </Button>
            {!all && <Button onClick={() => setMissing(true)}>Something is missing …</Button>}
          </>
        )}
      </div>
    </form>
  );
}
