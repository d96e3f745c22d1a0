"use client";
import { useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
import { listContract } from "@/core/item/list/contract";
import { ANCHOR_EVERY } from "@/core/item/list/query";
import { MOST_ROWS_SENT, tableAsked, type TableRow, type TableView } from "@/core/item/list/table";
import type { Look } from "@/core/view/look";
import { ask, keyOf } from "@/ui/kit/request";
import type { LiveMessage } from "@/ui/kit/use-live";
import { useReadAgain } from "@/ui/kit/use-read-again";

const ofItems = ({ kind }: LiveMessage) =>
  kind === "item" || kind === "design" || kind === "resync";

/** The part of a list that a row is sent in. */
export const partOf = (row: number): number => Math.floor(row / MOST_ROWS_SENT);

/** The head of a table with its first rows, and the other rows as they come into sight. */
export function useTable(
  projectKey: string,
  look: Look,
  { initial, asked }: { initial: TableView; asked: Look },
) {
  const client = useQueryClient();
  const params = { key: projectKey };
  const body = tableAsked(look);
  const sameAsFirst = JSON.stringify(body) === JSON.stringify(tableAsked(asked));
  const queryKey = [...keyOf(listContract.table, { params }), body];
  const { data, error, isPlaceholderData } = useQuery({
    queryKey,
    queryFn: () => ask(listContract.table, { params, body }),
    initialData: sameAsFirst ? initial : undefined,
    placeholderData: (before) => before,
  });
  const readAgain = () =>
    client.invalidateQueries({ queryKey: keyOf(listContract.table, { params }) });
  useReadAgain(ofItems, readAgain);
  return { view: data ?? initial, error, waiting: isPlaceholderData, body, readAgain };
}

export type TableHandle = ReturnType<typeof useTable>;

/**
 * The rows of some parts of a list behind its first.
 * @returns the row at a place of the list; undefined while it is fetched
 */
export function useParts(
  projectKey: string,
  { view, body }: Pick<TableHandle, "view" | "body">,
  parts: readonly number[],
): (row: number) => TableRow | undefined {
  const params = { key: projectKey };
  const wanted = parts.filter((part) => part > 0);
  const found = useQueries({
    queries: wanted.map((part) => {
      const first = part * MOST_ROWS_SENT;
      const anchor = Math.floor(first / ANCHOR_EVERY);
      return {
        // Rows are counted from the anchors of one reading.
        queryKey: [...keyOf(listContract.table, { params }), body, view.at, part],
        queryFn: () =>
          ask(listContract.table, {
            params,
            body: {
              ...body,
              at: view.at,
              after: anchor === 0 ? null : (view.head?.anchors[anchor - 1] ?? null),
              skip: first - anchor * ANCHOR_EVERY,
              head: false,
            },
          }),
        staleTime: Infinity,
      };
    }),
  });
  return (row) => {
    const part = partOf(row);
    const rows = part === 0 ? view.rows : found[wanted.indexOf(part)]?.data?.rows;
    return rows?.[row - part * MOST_ROWS_SENT];
  };
}
