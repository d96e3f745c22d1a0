"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { v7 as newId } from "uuid";
import { testingContract } from "@/core/ship/testing/contract";
import type { EndRunBody, StepResultBody } from "@/core/ship/testing/step-result";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, problemOf, queryOf, type Problem } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";
import { useRecord } from "./use-record";

/** A run that is open, kept in step; what is said of a step stands there at once. */
export function useRun(projectKey: string, number: number) {
  const client = useQueryClient();
  const params = { key: projectKey, number: String(number) };
  const query = queryOf(testingContract.run, { params });
  const { data: view, error } = useQuery(query);
  const readAgain = () => client.invalidateQueries({ queryKey: query.queryKey });
  const { record, readWhenKept, allKept } = useRecord({
    ...{ params, readAgain },
    queryKey: query.queryKey,
  });
  useReadAgain(({ kind }) => ["tests", "item", "resync"].includes(kind), readWhenKept);
  /** Records what needs no form: where it cannot be kept, a notice says so. */
  const say = async (body: StepResultBody): Promise<void> => {
    const problem = await record(body);
    if (problem) tellProblem(problem);
  };
  const addPictures = async (place: { caseId: string; stepId: string }, files: readonly File[]) => {
    for (const file of files) {
      const query = { ...place, id: newId(), name: file.name || "picture" };
      await ask(testingContract.putPicture, { params, query }, { bytes: file }).catch(tellProblem);
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
    // What is on its way counts: an end that overtook it would end without it.
    const wrong = await allKept();
    if (wrong) return wrong;
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
  return { view, error, record, say, addPictures, removePicture, end, giveUp };
}

export type RunHandle = ReturnType<typeof useRun>;
