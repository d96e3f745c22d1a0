"use client";
import { useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { testingContract } from "@/core/ship/testing/contract";
import type { StepResultBody } from "@/core/ship/testing/step-result";
import type { RunView } from "@/core/ship/testing/testing-view";
import { ask, problemOf, type Problem } from "@/ui/kit/request";

/**
 * What is said of the steps of a run: it stands there at once, goes out one after the other, and nothing that is read
 * in between takes it away again.
 */
export function useRecord({
  params,
  queryKey,
  readAgain,
}: {
  params: { key: string; number: string };
  queryKey: readonly unknown[];
  readAgain: () => Promise<unknown>;
}) {
  const client = useQueryClient();
  const line = useRef<Promise<Problem | null>>(Promise.resolve(null));
  const onTheWay = useRef(0);
  const missed = useRef(false);
  /** @returns what was wrong; null where it is kept */
  const record = async (body: StepResultBody): Promise<Problem | null> => {
    onTheWay.current += 1;
    void client.cancelQueries({ queryKey });
    client.setQueryData<RunView>(queryKey, (before) => before && saidIn(before, body));
    const kept = line.current
      .then(() => ask(testingContract.record, { params, body }))
      .then(() => null, problemOf);
    line.current = kept;
    const problem = await kept;
    onTheWay.current -= 1;
    if (problem) missed.current = true;
    await readMissed();
    return problem;
  };
  const readMissed = async () => {
    if (!missed.current || onTheWay.current > 0) return;
    missed.current = false;
    await readAgain();
  };
  return {
    record,
    /** Reads again as soon as nothing is on its way. */
    readWhenKept: async () => {
      missed.current = true;
      await readMissed();
    },
    /** Waits for what is on its way. @returns what was wrong with the last of that */
    allKept: async () => (onTheWay.current > 0 ? await line.current : null),
  };
}

/** The run with what was just said in it. */
function saidIn(view: RunView, said: StepResultBody): RunView {
  const { caseId, stepId, result, note, course, givenTo } = said;
  const person = view.people.find(({ id }) => id === givenTo) ?? null;
  return {
    ...view,
    cases: view.cases.map((one) =>
      one.caseId !== caseId
        ? one
        : {
            ...one,
            steps: one.steps.map((step) =>
              step.id === stepId ? { ...step, result, note, course, givenTo: person } : step,
            ),
          },
    ),
  };
}
