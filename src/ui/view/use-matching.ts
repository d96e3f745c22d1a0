"use client";
import { useMemo } from "react";
import { factsIn } from "@/core/condition/condition";
import { listContract } from "@/core/item/list/contract";
import type { MatchingView } from "@/core/item/list/table";
import type { AskedLook } from "@/core/view/asked-look";
import { isFiltering } from "@/core/view/filter";
import { shownBy } from "@/core/view/look";
import type { Shown } from "@/ui/board/use-board-parts";
import { ask, queryOf } from "@/ui/kit/request";
import { useTold } from "./use-told";
import type { LookHandle } from "./use-look";

/**
 * The items that a look lets through; of those that change it is asked again. Null where it lets
 * all through.
 */
export function useMatching(
  { projectKey, look }: LookHandle,
  asked: AskedLook,
  initial: MatchingView | null,
): Pick<Shown, "matching" | "waiting"> {
  const params = { key: projectKey };
  const narrows = isFiltering(shownBy(look));
  const body = { board: look.board, condition: shownBy(look) };
  const first =
    JSON.stringify(body) === JSON.stringify({ ...body, condition: shownBy(asked.look) });
  const { data, found } = useTold<MatchingView>({
    query: queryOf(listContract.matching, { params, body }),
    on: narrows,
    facts: factsIn(body.condition),
    first: first ? initial : null,
    askAfter: (of) => ask(listContract.matching, { params, body: { ...body, of } }),
    merged: ({ ids }, told, of) => {
      const gone = new Set(of);
      return { ids: [...ids.filter((id) => !gone.has(id)), ...told.ids] };
    },
  });

  const waiting = narrows && (found.isPlaceholderData || data === undefined);
  return useMemo(
    () => ({ matching: narrows && data ? new Set(data.ids) : null, waiting }),
    [narrows, data, waiting],
  );
}
