"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { v7 as newId } from "uuid";
import type { z } from "zod";
import { testingContract } from "@/core/ship/testing/contract";
import type { suiteBody } from "@/core/ship/testing/step-result";
import { caseKey, type caseBody } from "@/core/ship/testing/test-case";
import type { CasesView } from "@/core/ship/testing/testing-view";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, problemOf, queryOf, type Problem } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

export type CaseWritten = z.input<typeof caseBody>;

/** Writes cases, puts them away and into suites, wherever that is done. */
export function useCaseEdits(projectKey: string, readAgain: () => unknown) {
  const params = { key: projectKey };
  /** Stores a case. @returns its number, or what was wrong */
  const save = async (body: CaseWritten): Promise<number | Problem> => {
    try {
      const { number } = await ask(testingContract.saveCase, { params, body });
      await readAgain();
      tellDone(`${caseKey(projectKey, number)} is written.`);
      return number;
    } catch (error) {
      return problemOf(error);
    }
  };
  const setAway = async (number: number, putAway: boolean) => {
    const asked = { params: { key: projectKey, number: String(number) }, body: { putAway } };
    await ask(testingContract.putAwayCase, asked);
    await readAgain();
  };
  const putAway = async (number: number, away: boolean) => {
    const key = caseKey(projectKey, number);
    try {
      await setAway(number, away);
      tellDone(away ? `${key} is put away.` : `${key} is back.`, () => setAway(number, !away));
    } catch (problem) {
      tellProblem(problem);
    }
  };
  const storeSuite = async (body: z.output<typeof suiteBody>) => {
    await ask(testingContract.suite, { params, body });
    await readAgain();
  };
  /** @returns what was wrong; null where it is stored */
  const saveSuite = async (
    suite: { id?: string; name: string },
    away = false,
  ): Promise<Problem | null> => {
    const body = { id: suite.id ?? newId(), name: suite.name, putAway: away };
    try {
      await storeSuite(body);
      if (away)
        tellDone(`${suite.name} is put away; its cases stay.`, () =>
          storeSuite({ ...body, putAway: false }),
        );
      return null;
    } catch (error) {
      return problemOf(error);
    }
  };
  return { save, putAway, saveSuite };
}

/** The cases of a project, kept in step. */
export function useCases(initial: CasesView) {
  const client = useQueryClient();
  const params = { key: initial.project.key };
  const query = queryOf(testingContract.cases, { params });
  const { data: view } = useQuery({ ...query, initialData: initial });
  const readAgain = () => client.invalidateQueries({ queryKey: query.queryKey });
  useReadAgain(({ kind }) => ["tests", "item", "design", "resync"].includes(kind), readAgain);
  return { view, ...useCaseEdits(initial.project.key, readAgain) };
}

export type CasesHandle = ReturnType<typeof useCases>;
