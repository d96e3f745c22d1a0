"use client";
import { asksForLanes, NOTHING_TOLD, type LanesTold } from "@/core/board/lane";
import { lanesFacts } from "@/core/board/lanes-by";
import { listContract } from "@/core/item/list/contract";
import type { AskedLook } from "@/core/view/asked-look";
import { ask, queryOf } from "@/ui/kit/request";
import type { LookHandle } from "./use-look";
import { useTold } from "./use-told";

/** What the server says of the lanes of a board, where its cards do not say it themselves. */
export function useLanesTold(
  { projectKey, look }: LookHandle,
  asked: AskedLook,
  initial: LanesTold | null,
): LanesTold {
  const params = { key: projectKey };
  const { board, lanes } = look;
  const body = { board, lanes };
  const first = JSON.stringify(lanes) === JSON.stringify(asked.look.lanes);
  const { data } = useTold<LanesTold>({
    query: queryOf(listContract.lanes, { params, body }),
    on: asksForLanes(lanes),
    facts: lanesFacts(lanes),
    first: first ? initial : null,
    askAfter: (of) => ask(listContract.lanes, { params, body: { ...body, of } }),
    merged: (before, told) => ({
      keys: { ...before.keys, ...told.keys },
      names: { ...before.names, ...told.names },
    }),
  });
  return data ?? NOTHING_TOLD;
}
