"use client";
import { useRef, useState } from "react";
import type { StepResult } from "@/core/ship/testing/step-result";
import { VERDICT_WORDS } from "@/core/ship/testing/verdict";
import { Button, TextButton } from "@/ui/kit/button";
import { FilePick } from "@/ui/kit/file-pick";
import { TextArea } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { problemWords } from "@/ui/kit/request";
import { ago } from "@/ui/kit/time";
import { courseAtFirst, WhatComesOfIt, type StepOf } from "./run-failure";
import { StepPictures } from "./step-pictures";

/** A step of a run, with what was seen in it; where it is at the tester, with what can be said of it. */
export function RunStepLine({
  of,
  step,
  number,
  handle,
  view,
  active,
  noting,
  onActive,
  onPass,
  onNote,
  onSaid,
}: StepOf & {
  number: number;
  active: boolean;
  noting: "failed" | "blocked" | null;
  onActive: () => void;
  onPass: () => void;
  onNote: (result: "failed" | "blocked" | null) => void;
  onSaid: (failed: boolean) => void;
}) {
  const { action, expected, result, lastTime } = step;
  return (
    <li className="run-step" data-active={active || undefined} data-result={result ?? undefined}>
      <span className="run-number" aria-hidden="true">
        {number}
      </span>
      <div className="min-w-0">
        <p className="font-semibold">{action || expected}</p>
        {action && expected && <p className="text-[13px] text-ink-soft">{expected}</p>}
        {lastTime && (
          <p className="run-last">
            <b className="text-alarm">Last time:</b> {lastTime.note} ({lastTime.by.split(" ")[0]},{" "}
            {ago(lastTime.at, view.now)}
            {lastTime.build && `, build ${lastTime.build}`})
          </p>
        )}
        {step.note && noting === null && (
          <p className="mt-1 text-[13px] whitespace-pre-wrap">
            <b className={result === "failed" ? "text-alarm" : "text-signal-ink"}>
              {result === "failed" ? "Seen:" : "Could not be tried:"}
            </b>{" "}
            {step.note}
          </p>
        )}
        <StepPictures
          step={step}
          view={view}
          onRemove={active ? (id) => void handle.removePicture(id) : undefined}
        />
        {active && noting && (
          <StepNote
            key={noting}
            {...{ of, step, handle, view }}
            result={noting}
            onLeave={() => onNote(null)}
            onSaid={() => onSaid(noting === "failed")}
          />
        )}
        {active && noting === null && result === "failed" && (
          <WhatComesOfIt {...{ of, step, handle, view }} />
        )}
        {step.became && view.endedAt !== null && (
          <p className="text-[12.5px] text-ink-soft">became {step.became.key}</p>
        )}
      </div>
      {active ? (
        <div className="run-acts">
          <Button small onClick={onPass}>
            Passed <kbd>p</kbd>
          </Button>
          <Button small onClick={() => onNote("failed")}>
            Failed <kbd>f</kbd>
          </Button>
          <Button small onClick={() => onNote("blocked")}>
            Cannot <kbd>b</kbd>
          </Button>
        </div>
      ) : (
        <StepState {...{ result, number, onActive }} may={view.mayRecord} />
      )}
    </li>
  );
}

/** What was said of a step; a press comes back to it. */
function StepState({
  result,
  number,
  may,
  onActive,
}: {
  result: StepResult | null;
  number: number;
  may: boolean;
  onActive: () => void;
}) {
  const sign = result === "passed" ? "✓ " : result === "failed" ? "✗ " : "";
  const words = result === null ? "not yet" : `${sign}${VERDICT_WORDS[result]}`;
  const look = (result && LOOKS[result]) ?? "text-ink-soft";
  if (!may) return <span className={`run-state ${look}`}>{words}</span>;
  return (
    <TextButton
      className={`run-state !no-underline ${look}`}
      aria-label={`Step ${number}: ${words}`}
      onClick={onActive}
    >
      {words}
    </TextButton>
  );
}

const LOOKS: Record<StepResult, string> = {
  passed: "font-semibold !text-done",
  failed: "font-semibold !text-alarm",
  blocked: "font-semibold !text-signal-ink",
};

/** What was seen, or what kept the tester from trying: Enter keeps it. */
function StepNote({
  of,
  step,
  handle,
  result,
  onLeave,
  onSaid,
}: StepOf & { result: "failed" | "blocked"; onLeave: () => void; onSaid: () => void }) {
  const [note, setNote] = useState(step.result === result ? step.note : "");
  const [problem, setProblem] = useState<string | null>(null);
  const form = useRef<HTMLFormElement>(null);
  const failed = result === "failed";
  const keep = async () => {
    const wrong = await handle.record({
      ...{ caseId: of.caseId, stepId: step.id, result, note: note.trim() },
      course: failed ? (step.course ?? courseAtFirst(of)) : null,
      givenTo: failed ? (step.givenTo?.id ?? null) : null,
    });
    if (wrong) return setProblem(problemWords(wrong));
    onSaid();
  };
  const label = failed ? "What you saw" : "What kept you from trying it";
  return (
    <form
      ref={form}
      aria-label={label}
      className="mt-2 flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <TextArea
        aria-label={label}
        placeholder={failed ? "What you saw, for whoever mends it" : "What was missing"}
        value={note}
        rows={2}
        autoFocus
        onChange={(event) => setNote(event.target.value)}
        onPaste={(event) => {
          const files = [...event.clipboardData.files];
          if (files.length > 0)
            void handle.addPictures({ caseId: of.caseId, stepId: step.id }, files);
        }}
        onKeyDown={(event) => {
          if (event.key === "Escape") {
            event.stopPropagation();
            onLeave();
          }
          if (event.key !== "Enter" || event.shiftKey) return;
          event.preventDefault();
          form.current?.requestSubmit();
        }}
      />
      <FilePick
        label="Pictures of it"
        words="Add a picture"
        accept="image/*"
        multiple
        names={false}
        onFiles={(files) => void handle.addPictures({ caseId: of.caseId, stepId: step.id }, files)}
      />
      <FormFooter
        send={failed ? "It failed" : "Cannot be tried"}
        problem={problem}
        onLeave={onLeave}
      />
    </form>
  );
}
