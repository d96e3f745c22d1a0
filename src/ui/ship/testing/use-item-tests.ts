"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { testingContract } from "@/core/ship/testing/contract";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, queryOf } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

/** How an item is tested, kept in step; which cases test it can be said, and taken back. */
export function useItemTests(itemKey: string) {
  const client = useQueryClient();
  const params = { key: itemKey };
  const query = queryOf(testingContract.ofItem, { params });
  const { data: tests, error } = useQuery(query);
  const readAgain = () =>
    client.invalidateQueries({ queryKey: keyOf(testingContract.ofItem, { params }) });
  useReadAgain(({ kind }) => ["tests", "item", "code", "resync"].includes(kind), readAgain);
  const set = async (caseId: string, on: boolean) => {
    await ask(testingContract.link, { params, body: { caseId, on } });
    await readAgain();
  };
  const link = async (of: { id: string; key: string }, on: boolean) => {
    try {
      await set(of.id, on);
      tellDone(
        on ? `${of.key} tests ${itemKey}.` : `${of.key} does not test ${itemKey} any more.`,
        () => set(of.id, !on),
      );
    } catch (problem) {
      tellProblem(problem);
    }
  };
  return { tests, error, link, readAgain };
}

export type ItemTestsHandle = ReturnType<typeof useItemTests>;
