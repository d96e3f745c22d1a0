"use client";
import { keepPreviousData, useInfiniteQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import { intakeContract } from "@/core/intake/contract";
import type { DeskFilter } from "@/core/intake/desk-filter";
import { lastOf, type FoundReport } from "@/core/intake/found-report";
import { ask, queryOf } from "@/ui/kit/request";

/** Half-open. */
export interface VerdictPeriod {
  since: number;
  until: number;
}

/**
 * Reports of a project that are on the desk no more, or that hold some words, in pages.
 * @param asked whether any are looked for
 * @param period when the verdict that stands was given
 */
export function useFound(
  projectKey: string,
  words: string,
  filter: DeskFilter,
  { asked, period }: { asked: boolean; period: VerdictPeriod | null },
) {
  const wanted = useDeferredValue(words.trim());
  const params = { key: projectKey };
  const query = {
    words: wanted,
    way: filter.way || undefined,
    team: filter.teamId || undefined,
    verdict: filter.verdict || undefined,
    ...period,
  };
  const { data, error, isFetching, hasNextPage, fetchNextPage } = useInfiniteQuery({
    queryKey: queryOf(intakeContract.find, { params, query }).queryKey,
    queryFn: ({ pageParam: last }) =>
      ask(intakeContract.find, {
        params,
        query: { ...query, after: last?.id, before: last ? lastOf(last) : undefined },
      }),
    initialPageParam: null as FoundReport | null,
    getNextPageParam: ({ rows, rest }) => (rest > 0 ? rows.at(-1) : null),
    placeholderData: keepPreviousData,
    enabled: asked,
  });
  return {
    rows: asked ? (data?.pages.flatMap((p) => p.rows) ?? []) : [],
    rest: data?.pages.at(-1)?.rest ?? 0,
    error,
    reading: isFetching && !data,
    more: () => void (hasNextPage && !isFetching && fetchNextPage()),
  };
}
