"use client";
import { useState } from "react";
import { v7 as newId } from "uuid";
import type { ItemMoves, RunCase, RunStep, RunView } from "@/core/ship/testing/testing-view";
import { becomesTask } from "@/core/ship/testing/run-end";
import { runVerdict, verdictOf, VERDICT_WORDS, type Verdict } from "@/core/ship/testing/verdict";
import { TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { problemWords } from "@/ui/kit/request";
import { Select } from "@/ui/kit/select";
import { useScreenKeys } from "@/ui/kit/use-screen-keys";
import type { RunHandle } from "./use-run";

/** What a case of an item came to so far. */
const verdictFor = (view: RunView, itemId: string | null): Verdict | null =>
  runVerdict(
    view.cases
      .filter(({ item }) => itemId === null || item?.id === itemId)
      .map(({ steps }) => verdictOf(steps.map(({ result }) => result))),
  );

/** Where an item would go as a rule: back where it failed, on where it passed. */
function offeredMove({ moves, byItself }: ItemMoves, verdict: Verdict | null, goesBack: boolean) {
  if (verdict === "failed" && goesBack && !byItself.failed)
    return moves.find(({ back }) => back)?.to ?? "";
  if (verdict === "passed" && !byItself.passed) return moves.find(({ back }) => !back)?.to ?? "";
  return "";
}

/** The end of a run: what will come of it, before it does. */
export function RunEndForm({
  handle,
  view,
  onEnded,
  onLeave,
}: {
  handle: RunHandle;
  view: RunView;
  onEnded: () => void;
  onLeave?: () => void;
}) {
  const belong = failedOf(view).filter(belongs);
  const [commandId] = useState(() => newId());
  const [said, setSaid] = useState<Record<string, string>>({});
  const [mending, setMending] = useState("2");
  const [retest, setRetest] = useState("0.5");
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const verdict = verdictFor(view, null);
  const moveOf = (one: ItemMoves) =>
    said[one.itemId] ??
    offeredMove(
      one,
      verdictFor(view, one.itemId),
      belong.some(({ of }) => of.item?.id === one.itemId),
    );
  const end = async () => {
    if (busy) return;
    setBusy(true);
    const moves = Object.fromEntries(
      view.moves.flatMap((one) => (moveOf(one) === "" ? [] : [[one.itemId, moveOf(one)]])),
    );
    const [mendingHours, retestHours] = [mending, retest].map((text) => Number(text) || 0);
    const wrong = await handle.end({ commandId, mendingHours, retestHours, moves });
    setBusy(false);
    if (wrong) return setProblem(problemWords(wrong));
    onEnded();
  };
  useScreenKeys({ e: () => void end() });
  return (
    <form
      aria-label="End the run"
      className="run-end"
      onSubmit={(event) => {
        event.preventDefault();
        void end();
      }}
    >
      <p className="font-semibold">
        {verdict === null
          ? "Not all of it was tried: the item hears nothing of this run."
          : `This run ${VERDICT_WORDS[verdict]}.`}
      </p>
      <WhatBecomes view={view} />
      {belong.length > 0 && (
        <p className="text-[13px]">
          Mending is thought to take{" "}
          <TextInput
            words
            aria-label="Hours to mend a step"
            inputMode="decimal"
            className="!w-10 text-right"
            value={mending}
            onChange={(event) => setMending(event.target.value)}
          />{" "}
          h each, testing it again{" "}
          <TextInput
            words
            aria-label="Hours to test again"
            inputMode="decimal"
            className="!w-10 text-right"
            value={retest}
            onChange={(event) => setRetest(event.target.value)}
          />{" "}
          h.
        </p>
      )}
      {view.moves.map((one) => {
        const own = verdictFor(view, one.itemId);
        const goes =
          (own === "failed" && one.byItself.failed) || (own === "passed" && one.byItself.passed);
        return (
          <p key={one.itemId} className="flex flex-wrap items-center gap-2 text-[13px]">
            <span className="key">{one.key}</span>
            {goes ? (
              "goes on by itself, as its process says."
            ) : (
              <Select
                label={`Where ${one.key} goes`}
                value={moveOf(one)}
                options={[
                  { value: "", label: `stays in ${one.stateName}` },
                  ...one.moves.map(({ to, verb, toName }) => ({
                    value: to,
                    label: `${verb}, to ${toName}`,
                  })),
                ]}
                onChange={(to) => setSaid({ ...said, [one.itemId]: to })}
              />
            )}
          </p>
        );
      })}
      <FormFooter
        send={
          <>
            End the run <kbd>e</kbd>
          </>
        }
        busy={busy}
        problem={problem}
        onLeave={onLeave}
      />
    </form>
  );
}

interface FailedStep {
  of: RunCase;
  step: RunStep;
  /** As people count. */
  number: number;
}

const failedOf = (view: RunView): FailedStep[] =>
  view.cases.flatMap((of) =>
    of.steps.flatMap((step, i) => (step.result === "failed" ? [{ of, step, number: i + 1 }] : [])),
  );

/** Whether what failed is part of an item that is still being built. */
const belongs = ({ of, step }: FailedStep): boolean =>
  of.item !== null && becomesTask(step.course, of.item);

/** What becomes of each step that failed. */
const WhatBecomes = ({ view }: { view: RunView }) =>
  failedOf(view).map((one) => {
    const { of, step, number } = one;
    return (
      <p key={`${of.caseId} ${step.id}`} className="text-[13px]">
        Step {number} of <span className="key">{of.key}</span> becomes{" "}
        {belongs(one)
          ? `a task under ${of.item!.key}`
          : step.course === "mend now"
            ? "an expedited bug, begun at once"
            : "a bug of its own"}
        {step.givenTo ? `, for ${step.givenTo.name}` : ", for nobody yet"}.
      </p>
    );
  });
