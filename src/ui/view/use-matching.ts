"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef } from "react";
import { listContract } from "@/core/item/list/contract";
import type { MatchingView } from "@/core/item/list/table";
import type { AskedLook } from "@/core/view/asked-look";
import { isFiltering } from "@/core/view/filter";
import { shownBy } from "@/core/view/look";
import type { Shown } from "@/ui/board/use-board-parts";
import { ask, queryOf } from "@/ui/kit/request";
import { useLive } from "@/ui/kit/use-live";
import type { LookHandle } from "./use-look";

/** Several changes in a moment are asked after together. */
const TOGETHER_MS = 400;

/**
 * The items that a look lets through; of those that change it is asked again. Null where it lets
 * all through.
 */
export function useMatching(
  { projectKey, look }: LookHandle,
  asked: AskedLook,
  initial: MatchingView | null,
): Pick<Shown, "matching" | "waiting"> {
  const client = useQueryClient();
  const params = { key: projectKey };
  const narrows = isFiltering(shownBy(look));
  const body = { board: look.board, condition: shownBy(look) };
  const query = queryOf(listContract.matching, { params, body });
  const first =
    JSON.stringify(body) === JSON.stringify({ ...body, condition: shownBy(asked.look) });
  const { data, refetch, isPlaceholderData } = useQuery({
    ...query,
    enabled: narrows,
    initialData: first ? (initial ?? undefined) : undefined,
    placeholderData: (before) => before,
  });

  const changed = useRef(new Set<string>());
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  useEffect(() => () => void (timer.current && clearTimeout(timer.current)), []);
  const askAgain = async () => {
    const of = [...changed.current];
    changed.current = new Set();
    try {
      const { ids } = await ask(listContract.matching, { params, body: { ...body, of } });
      const gone = new Set(of);
      client.setQueryData<MatchingView>(
        query.queryKey,
        (before) => before && { ids: [...before.ids.filter((id) => !gone.has(id)), ...ids] },
      );
    } catch {
      // Out of reach, or too many at once: all are read again.
      void refetch();
    }
  };
  useLive((message) => {
    if (!narrows) return;
    if (message.kind === "resync") return void refetch();
    if (message.kind !== "item") return;
    // What a parent says may follow from what is under it.
    for (const id of [message.card.id, message.card.parentId]) if (id) changed.current.add(id);
    if (timer.current) clearTimeout(timer.current);
    timer.current = setTimeout(() => void askAgain(), TOGETHER_MS);
  });

  const waiting = narrows && (isPlaceholderData || data === undefined);
  return useMemo(
    () => ({ matching: narrows && data ? new Set(data.ids) : null, waiting }),
    [narrows, data, waiting],
  );
}
