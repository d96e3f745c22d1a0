"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { planContract } from "@/core/plan/contract";
import type { SprintAct } from "@/core/plan/request";
import type { SprintView } from "@/core/plan/sprint-view";
import { ask, queryOf } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

/** A sprint with its figures, kept in step with the server. */
export function useSprint(initial: SprintView) {
  const client = useQueryClient();
  const params = { key: initial.project.key, sprint: initial.sprint.id };
  const query = queryOf(planContract.sprint, { params });
  const { data: view } = useQuery({ ...query, initialData: initial });
  useReadAgain(
    (message) => ["item", "design", "resync"].includes(message.kind),
    () => client.invalidateQueries({ queryKey: query.queryKey }),
  );
  /** @throws Problem */
  const act = async (body: SprintAct) => {
    const told = await ask(planContract.actOnSprint, { params, body });
    client.setQueryData(query.queryKey, told);
  };
  return { view, act };
}

export type SprintHandle = ReturnType<typeof useSprint>;
