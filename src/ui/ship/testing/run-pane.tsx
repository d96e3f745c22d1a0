"use client";
import { useState, type ReactNode } from "react";
import type { RunCase, RunStep, RunView } from "@/core/ship/testing/testing-view";
import { progressOf, progressWords, VERDICT_WORDS } from "@/core/ship/testing/verdict";
import { Button, TextButton } from "@/ui/kit/button";
import { Note } from "@/ui/kit/note";
import { usePanel } from "@/ui/kit/panel-context";
import { exact } from "@/ui/kit/time";
import { useScreenKeys } from "@/ui/kit/use-screen-keys";
import { RunEndForm } from "./run-end";
import { RunStepLine } from "./run-step";
import { useRun, type RunHandle } from "./use-run";

/** A run: one step after another, by the pointer or by keys. */
export function RunPane({
  projectKey,
  number,
  onRun,
}: {
  projectKey: string;
  number: number;
  onRun: (number: number) => void;
}) {
  const handle = useRun(projectKey, number);
  if (handle.error) return <p className="p-4 text-ink-soft">There is no such run.</p>;
  if (!handle.view)
    return (
      <p className="p-4 text-ink-soft" role="status">
        Looking what was seen so far …
      </p>
    );
  return <Run handle={handle} view={handle.view} onRun={onRun} />;
}

/** A step with where it stands. */
interface Place {
  of: RunCase;
  step: RunStep;
}

const NTH = ["first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth"];
const nthWords = (n: number): string => NTH[n - 1] ?? `${n}th`;

function Run({
  handle,
  view,
  onRun,
}: {
  handle: RunHandle;
  view: RunView;
  onRun: (number: number) => void;
}) {
  const places = view.cases.flatMap((of) => of.steps.map((step): Place => ({ of, step })));
  const firstOpen = places.findIndex(({ step }) => step.result === null);
  const done = firstOpen < 0;
  const [chosen, setChosen] = useState<number | null>(null);
  const [noting, setNoting] = useState<"failed" | "blocked" | null>(null);
  const [ending, setEnding] = useState(false);
  const active = chosen ?? (firstOpen < 0 ? null : firstOpen);
  const open = view.mayRecord && view.givenUpAt === null;
  const goTo = (at: number | null) => {
    setChosen(at);
    setNoting(null);
  };
  const pass = () => {
    const place = active === null ? undefined : places[active];
    if (!open || !place || noting) return;
    void handle.say({
      ...{ caseId: place.of.caseId, stepId: place.step.id, result: "passed" },
      ...{ note: "", course: null, givenTo: null },
    });
    goTo(nextOpen(places, active!));
  };
  const note = (result: "failed" | "blocked") => () => {
    if (open && active !== null) setNoting(result);
  };
  const by = (step: number) => () => {
    const at = active ?? 0;
    if (places[at + step]) goTo(at + step);
  };
  useScreenKeys(
    {
      ...{ p: pass, f: note("failed"), b: note("blocked") },
      ...{
        ArrowDown: by(1),
        ArrowUp: by(-1),
        e: open && !done && !ending ? () => setEnding(true) : undefined,
      },
    },
    {
      part: "test run",
      words: {
        ...{ p: "The step passed", f: "The step failed", b: "The step cannot be tried" },
        ...{ e: "End the run" },
      },
    },
  );
  return (
    <section aria-label={`Test run ${view.number}`} className="test-pane">
      <RunHead view={view} handle={handle} />
      {view.givenUpAt !== null && (
        <Note kind="look">
          <p>
            This run was given up.{" "}
            {view.mayRecord && (
              <TextButton onClick={() => void handle.giveUp(false)}>Go on with it</TextButton>
            )}
          </p>
        </Note>
      )}
      {view.cases.map((of) => (
        <CaseSteps
          key={of.caseId}
          of={of}
          several={view.cases.length > 1}
          row={(step) => {
            const at = places.findIndex(
              (one) => one.of.caseId === of.caseId && one.step.id === step.id,
            );
            return (
              <RunStepLine
                key={step.id}
                of={of}
                step={step}
                number={of.steps.indexOf(step) + 1}
                handle={handle}
                view={view}
                active={open && at === active}
                noting={at === active ? noting : null}
                onActive={() => goTo(at)}
                onPass={pass}
                onNote={setNoting}
                onSaid={(failed) => {
                  setNoting(null);
                  // What failed stays: whose it is can be said by one key.
                  setChosen(failed ? at : nextOpen(places, at));
                }}
              />
            );
          }}
        />
      ))}
      {open && (done || ending) ? (
        <RunEndForm
          handle={handle}
          view={view}
          onEnded={() => onRun(view.number)}
          onLeave={done ? undefined : () => setEnding(false)}
        />
      ) : (
        open && (
          <Button look="quiet" className="mt-3" onClick={() => setEnding(true)}>
            End the run here <kbd>e</kbd>
          </Button>
        )
      )}
      {view.endedAt !== null && <Ended view={view} />}
    </section>
  );
}

/** The next step that nobody tried, behind one, else before it; none where all were. */
function nextOpen(places: readonly Place[], at: number): number | null {
  const openAt = places.flatMap(({ step }, i) => (step.result === null && i !== at ? [i] : []));
  return openAt.find((i) => i > at) ?? openAt[0] ?? null;
}

function RunHead({ view, handle }: { view: RunView; handle: RunHandle }) {
  const { openItem } = usePanel();
  const { item, tester, environment, build, startedAt, project, nth } = view;
  const progress = progressOf(view.cases.flatMap(({ steps }) => steps.map(({ result }) => result)));
  const share = (n: number) => `${(100 * n) / Math.max(1, progress.of)}%`;
  const where = [build && `build ${build}`, environment && `on ${environment}`].filter(Boolean);
  const before = view.cases.length === 1 ? view.cases[0].before : "";
  return (
    <header className="mb-3">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-[17px]">{view.title}</h2>
        {view.cases.length === 1 && <span className="key">{view.cases[0].key}</span>}
        <span className="text-[13px] text-ink-soft">
          {item && (
            <>
              for{" "}
              <TextButton className="key" onClick={() => openItem(item.key)}>
                {item.key}
              </TextButton>{" "}
              ·{" "}
            </>
          )}
          {item ? `${nthWords(nth)} run` : `run ${view.number}`} · by {tester.name}
          {where.length > 0 && ` · ${where.join(" ")}`} ·{" "}
          <span title={exact(startedAt, project.zone)}>
            started {exact(startedAt, project.zone).slice(-5)}
          </span>
        </span>
        {view.mayRecord && view.givenUpAt === null && (
          <span className="ml-auto">
            <TextButton onClick={() => void handle.giveUp(true)}>Give the run up</TextButton>
          </span>
        )}
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1 text-[13px]">
        <span className="run-progress" role="img" aria-label={progressWords(progress)}>
          <i data-result="passed" style={{ width: share(progress.passed) }} />
          <i data-result="failed" style={{ width: share(progress.failed) }} />
          <i data-result="blocked" style={{ width: share(progress.blocked) }} />
        </span>
        <span>{progressWords(progress)}</span>
        {before && <span className="ml-auto text-ink-soft">before: {before}</span>}
      </div>
    </header>
  );
}

function CaseSteps({
  of,
  several,
  row,
}: {
  of: RunCase;
  several: boolean;
  row: (step: RunStep) => ReactNode;
}) {
  return (
    <div className="mb-4">
      {several && (
        <h3 className="mb-1 flex flex-wrap items-baseline gap-x-2 text-[14px]">
          {of.title} <span className="key">{of.key}</span>
          {of.before && (
            <span className="text-[12.5px] font-normal text-ink-soft">before: {of.before}</span>
          )}
        </h3>
      )}
      {of.rewritten && (
        <p className="text-[12.5px] text-signal-ink">
          {of.key} was written anew since this run began; here it says what it said then.
        </p>
      )}
      <ol className="run-steps">{of.steps.map(row)}</ol>
    </div>
  );
}

function Ended({ view }: { view: RunView }) {
  const { openItem } = usePanel();
  const made = view.cases.flatMap(({ steps }) => steps.flatMap(({ became }) => became ?? []));
  return (
    <p className="mt-3 text-ink-soft">
      This run {view.verdict ? VERDICT_WORDS[view.verdict] : "was ended before all was tried"},{" "}
      {exact(view.endedAt!, view.project.zone)}.
      {made.map(({ key, title }) => (
        <span key={key} className="block">
          <TextButton className="key" onClick={() => openItem(key)}>
            {key}
          </TextButton>{" "}
          {title}
        </span>
      ))}
    </p>
  );
}
