"use client";
import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import type { AlertGroup, AlertShelf } from "@/core/alerts/alert";
import { alertsContract } from "@/core/alerts/contract";
import type { AlertAct } from "@/core/alerts/request";
import { useLive } from "@/ui/kit/use-live";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, queryOf } from "@/ui/kit/request";

/** How many alerts are new: right at once in all tabs. */
export function useAlertCount(initial: number): number {
  const client = useQueryClient();
  const { data } = useQuery({
    ...queryOf(alertsContract.count, {}),
    initialData: { fresh: initial },
    // What was put off comes up again without anything that happens.
    refetchInterval: 60_000,
    staleTime: 60_000,
  });
  useLive((message) => {
    if (message.kind !== "alerts" && message.kind !== "resync") return;
    void client.invalidateQueries({ queryKey: keyOf(alertsContract.count) });
    void client.invalidateQueries({ queryKey: keyOf(alertsContract.read) });
  });
  return data.fresh;
}

/** The alerts of a shelf, page by page, and what is done with them. */
export function useAlerts(shelf: AlertShelf) {
  const client = useQueryClient();
  const query = useInfiniteQuery({
    queryKey: [...keyOf(alertsContract.read), shelf],
    queryFn: ({ pageParam }) =>
      ask(alertsContract.read, { query: { shelf, ...(pageParam ? { after: pageParam } : {}) } }),
    initialPageParam: "",
    getNextPageParam: (last) => last.next ?? undefined,
    refetchOnMount: "always",
  });
  const groups = together(query.data?.pages.flatMap((page) => page.groups));
  const readAgain = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: keyOf(alertsContract.count) }),
      client.invalidateQueries({ queryKey: keyOf(alertsContract.read) }),
    ]);
  const act = async (body: AlertAct, done?: string, back?: AlertAct) => {
    try {
      await ask(alertsContract.act, { body });
      await readAgain();
      if (done)
        tellDone(
          done,
          back &&
            (async () => {
              await ask(alertsContract.act, { body: back });
              await readAgain();
            }),
        );
    } catch (error) {
      tellProblem(error);
    }
  };
  return { groups, query, act };
}

/** An item whose alerts stand on two pages is one group. */
function together(groups: AlertGroup[] | undefined): AlertGroup[] | undefined {
  if (!groups) return undefined;
  const byItem = new Map<string, AlertGroup>();
  for (const group of groups) {
    const known = byItem.get(group.itemKey);
    byItem.set(
      group.itemKey,
      known ? { ...known, alerts: [...known.alerts, ...group.alerts] } : group,
    );
  }
  return [...byItem.values()];
}
