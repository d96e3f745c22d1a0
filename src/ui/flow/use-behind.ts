"use client";
import { keepPreviousData, useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { z } from "zod";
import { itemContract } from "@/core/item/contract";
import { ask, queryOf } from "@/ui/kit/request";

const orderSchema = z.object({ group: z.string(), sort: z.string(), descending: z.boolean() });
/** How somebody wants to see the items behind figures; an empty text is nothing. */
export type ListOrder = z.infer<typeof orderSchema>;

const AS_THEY_COME: ListOrder = { group: "", sort: "", descending: false };
/** Each project has fields of its own. */
const storedAs = (projectKey: string) => `behind-order ${projectKey}`;

/** How it was seen last on this machine. */
function keptOrder(projectKey: string): ListOrder {
  try {
    return orderSchema.parse(JSON.parse(localStorage.getItem(storedAs(projectKey)) ?? ""));
  } catch {
    return AS_THEY_COME;
  }
}

/** The items behind a figure in the order that is wanted, page by page. */
export function useBehind(projectKey: string, ids: string[]) {
  const [order, putOrder] = useState(() => keptOrder(projectKey));
  const params = { key: projectKey };
  const body = {
    ids,
    sort: order.sort === "" ? [] : [{ fact: order.sort, descending: order.descending }],
    group: order.group || null,
  };
  const { data, error, isFetching, hasNextPage, fetchNextPage } = useInfiniteQuery({
    queryKey: queryOf(itemContract.behind, { params, body }).queryKey,
    queryFn: ({ pageParam: from }) =>
      ask(itemContract.behind, { params, body: { ...body, ...from } }),
    initialPageParam: null as { after: string; at: number } | null,
    getNextPageParam: ({ next, at }) => (next === null ? null : { after: next, at }),
    placeholderData: keepPreviousData,
  });
  const rows = data?.pages.flatMap((page) => page.rows) ?? [];
  const head = data?.pages[0] ?? null;
  const all = head?.groups.reduce((sum, group) => sum + group.count, 0) ?? 0;
  const setOrder = (next: ListOrder) => {
    putOrder(next);
    try {
      localStorage.setItem(storedAs(projectKey), JSON.stringify(next));
    } catch {
      // Not remembered, then.
    }
  };
  return {
    head,
    rows,
    rest: hasNextPage ? all - rows.length : 0,
    error,
    order,
    setOrder,
    more: () => void (hasNextPage && !isFetching && fetchNextPage()),
  };
}
