"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { planContract } from "@/core/plan/contract";
import type { SizingAct, SizingView } from "@/core/plan/sizing-view";
import { tellProblem } from "@/ui/kit/notice";
import { ask, queryOf } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

/** The rounds of a project, kept in step with what others say in them. */
export function useSizing(initial: SizingView) {
  const client = useQueryClient();
  const params = { key: initial.project.key };
  const query = queryOf(planContract.sizing, { params });
  const { data: view } = useQuery({ ...query, initialData: initial });
  const readAgain = () => client.invalidateQueries({ queryKey: query.queryKey });
  useReadAgain((message) => ["item", "design", "resync"].includes(message.kind), readAgain);
  /** @returns whether it was done */
  const act = async (body: SizingAct): Promise<boolean> => {
    try {
      client.setQueryData(query.queryKey, await ask(planContract.size, { params, body }));
      return true;
    } catch (error) {
      tellProblem(error);
      await readAgain();
      return false;
    }
  };
  return { view, act };
}

export type SizingHandle = ReturnType<typeof useSizing>;
