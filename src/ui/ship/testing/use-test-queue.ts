"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { testingContract } from "@/core/ship/testing/contract";
import type { StartRunBody } from "@/core/ship/testing/step-result";
import type { TestQueue } from "@/core/ship/testing/testing-view";
import { ask, problemOf, queryOf, type Problem } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

/** What waits to be tested, kept in step with what happens to items, their code and their tests. */
export function useTestQueue(initial: TestQueue) {
  const client = useQueryClient();
  const params = { key: initial.project.key };
  const query = queryOf(testingContract.queue, { params });
  const { data: view } = useQuery({ ...query, initialData: initial });
  const readAgain = () => client.invalidateQueries({ queryKey: query.queryKey });
  useReadAgain(
    ({ kind }) => ["tests", "item", "code", "design", "resync"].includes(kind),
    readAgain,
  );
  /** Begins a run. @returns its number, or what was wrong */
  const start = async (body: StartRunBody): Promise<number | Problem> => {
    try {
      const { number } = await ask(testingContract.start, { params, body });
      await readAgain();
      return number;
    } catch (error) {
      return problemOf(error);
    }
  };
  return { view, start };
}

export type TestQueueHandle = ReturnType<typeof useTestQueue>;
