"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { v7 as newId } from "uuid";
import { addressOf } from "@/core/contract/contract";
import { testingContract } from "@/core/ship/testing/contract";
import type { EndRunBody, StepResultBody } from "@/core/ship/testing/step-result";
import type { RunView } from "@/core/ship/testing/testing-view";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, problemOf, queryOf, type Problem } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

/** A run that is open, kept in step; what is said of a step stands there at once. */
export function useRun(projectKey: string, number: number) {
  const client = useQueryClient();
  const params = { key: projectKey, number: String(number) };
  const query = queryOf(testingContract.run, { params });
  const { data: view, error } = useQuery(query);
  const readAgain = () => client.invalidateQueries({ queryKey: query.queryKey });
  useReadAgain(({ kind }) => ["tests", "item", "resync"].includes(kind), readAgain);
  /** @returns what was wrong; null where it is kept */
  const record = async (body: StepResultBody): Promise<Problem | null> => {
    client.setQueryData<RunView>(query.queryKey, (before) => before && saidIn(before, body));
    try {
      await ask(testingContract.record, { params, body });
      return null;
    } catch (problem) {
      await readAgain();
      return problemOf(problem);
    }
  };
  const addPictures = async (place: { caseId: string; stepId: string }, files: readonly File[]) => {
    for (const file of files) {
      const asked = { params, query: { ...place, id: newId(), name: file.name || "picture" } };
      const sent = await fetch(addressOf(testingContract.putPicture, asked), {
        ...{ method: "POST", body: file },
        headers: { "Content-Type": "application/octet-stream" },
      }).catch(() => null);
      if (sent?.ok) continue;
      const told = (await sent?.json().catch(() => null)) as { title?: string } | null;
      tellProblem(new Error(told?.title ?? `${file.name} did not get through.`));
    }
    await readAgain();
  };
  const removePicture = async (picture: string) => {
    try {
      await ask(testingContract.removePicture, { params: { ...params, picture } });
      await readAgain();
    } catch (problem) {
      tellProblem(problem);
    }
  };
  const end = async (
    body: Omit<EndRunBody, "commandId"> & { commandId: string },
  ): Promise<Problem | null> => {
    try {
      const { made, moved } = await ask(testingContract.end, { params, body });
      await client.invalidateQueries({ queryKey: keyOf(testingContract.queue, { params }) });
      await readAgain();
      const parts = [
        ...made.map(({ key }) => `${key} is made`),
        ...moved.map((key) => `${key} has moved`),
      ];
      tellDone(`Run ${number} has ended${parts.length > 0 ? `: ${parts.join(", ")}` : ""}.`);
      return null;
    } catch (problem) {
      return problemOf(problem);
    }
  };
  const setGivenUp = async (givenUp: boolean) => {
    await ask(testingContract.giveUp, { params, body: { givenUp } });
    await readAgain();
  };
  const giveUp = async (givenUp: boolean) => {
    try {
      await setGivenUp(givenUp);
      if (givenUp) tellDone(`Run ${number} is given up.`, () => setGivenUp(false));
    } catch (problem) {
      tellProblem(problem);
    }
  };
  return { view, error, record, addPictures, removePicture, end, giveUp };
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

export type RunHandle = ReturnType<typeof useRun>;
