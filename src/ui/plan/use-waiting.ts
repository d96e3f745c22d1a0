"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { planContract } from "@/core/plan/contract";
import { longestChain, planConflicts } from "@/core/plan/dependencies";
import { placeAmong, type WaitingItem, type WaitingView } from "@/core/plan/waiting-view";
import { queryOf } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";
import { useSprintMoves } from "./use-sprint-moves";

/** An item in the picture, in the sprint where it stands now. */
export interface PlacedItem extends WaitingItem {
  key: string;
  /** Among the sprints, from 0; null: in none of them. */
  place: number | null;
}

/** What is said of an item that one may not see. */
export const OUTSIDE = "an item outside your view";

/** What waits for what, kept in step; what is moved stands there at once. */
export function useWaiting(initial: WaitingView) {
  const client = useQueryClient();
  const query = queryOf(planContract.waiting, { params: { key: initial.project.key } });
  const { data: view } = useQuery({ ...query, initialData: initial });
  const readAgain = () => client.invalidateQueries({ queryKey: query.queryKey });
  useReadAgain((message) => ["item", "design", "resync"].includes(message.kind), readAgain);
  const nameOf = (id: string | null) =>
    view.sprints.find((one) => one.id === id)?.name ?? "a sprint";
  const { onTheWay, move } = useSprintMoves({ nameOf, readAgain });
  const items = useMemo(
    () =>
      view.items.map((item): PlacedItem => {
        const goesTo = onTheWay.get(item.id);
        const now = goesTo === undefined ? item : { ...item, sprintId: goesTo, until: null };
        return { ...now, key: item.seen?.key ?? OUTSIDE, place: placeAmong(view.sprints, now) };
      }),
    [view, onTheWay],
  );
  const conflicts = useMemo(() => planConflicts(items, view.waits), [items, view.waits]);
  const chain = useMemo(
    () =>
      longestChain(
        items.map(({ id, seen }) => ({ id, size: seen?.points ?? view.defaultSize })),
        view.waits,
      ),
    [items, view],
  );
  return { view, items, conflicts, chain, move };
}

export type WaitingHandle = ReturnType<typeof useWaiting>;
