"use client";
import { useQuery, useQueryClient, type QueryKey } from "@tanstack/react-query";
import { sayWhatOthersDo } from "@/core/condition/condition";
import type { FactName } from "@/core/condition/facts";
import { readAnew } from "@/ui/kit/read-anew";
import { useChangedItems } from "./use-changed-items";

/**
 * What the server says of the items of a board; of those that change it is asked again.
 * @param on whether it is asked at all
 * @param first what came with the page, where that is what is asked for
 * @param merged what was said before, with what is said now of some items
 */
export function useTold<Told extends object>({
  query,
  on,
  facts,
  first,
  askAfter,
  merged,
}: {
  query: { queryKey: QueryKey; queryFn: () => Promise<Told> };
  on: boolean;
  /** What it follows from. */
  facts: Iterable<FactName>;
  first: Told | null;
  askAfter: (of: string[]) => Promise<Told>;
  merged: (before: Told, told: Told, of: readonly string[]) => Told;
}) {
  const client = useQueryClient();
  const found = useQuery<Told>({
    ...query,
    enabled: on,
    initialData: first === null ? undefined : () => first,
    placeholderData: (before) => before as never,
  });
  const { refetch } = found;
  const again = async (of: string[]) => {
    if (client.getQueryData(query.queryKey) === undefined)
      return readAnew(client, { queryKey: query.queryKey, exact: true });
    try {
      const told = await askAfter(of);
      client.setQueryData<Told>(
        query.queryKey,
        (before) => before && merged(before as Told, told, of),
      );
    } catch {
      // Out of reach, or too many at once: all are read again.
      void refetch();
    }
  };
  useChangedItems({ on, ofOthers: sayWhatOthersDo(facts) }, again, refetch);
  return { data: on ? (found.data as Told | undefined) : undefined, found };
}
