"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { planContract } from "@/core/plan/contract";
import type { PlanningView } from "@/core/plan/planning-view";
import { queryOf } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";
import { useSprintMoves } from "./use-sprint-moves";

/** The plan of the next sprints; what is moved stands there at once, and is undone as one. */
export function usePlanning(initial: PlanningView) {
  const client = useQueryClient();
  const query = queryOf(planContract.planning, { params: { key: initial.project.key } });
  const { data: view } = useQuery({ ...query, initialData: initial });
  const readAgain = () => client.invalidateQueries({ queryKey: query.queryKey });
  useReadAgain((message) => ["item", "design", "resync"].includes(message.kind), readAgain);
  const nameOf = (id: string | null) =>
    id === null ? "the backlog" : (view.sprints.find((one) => one.id === id)?.name ?? "a sprint");
  const { onTheWay, move } = useSprintMoves({ nameOf, readAgain });
  /** Everything in the plan, where it stands now. */
  const items = useMemo(() => {
    const all = [...view.backlog, ...view.planned];
    return all.map((item) => {
      const goesTo = onTheWay.get(item.id);
      return goesTo === undefined ? item : { ...item, sprintId: goesTo };
    });
  }, [view, onTheWay]);
  return { view, items, move, readAgain };
}

export type PlanningHandle = ReturnType<typeof usePlanning>;
