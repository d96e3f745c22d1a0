"use client";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef } from "react";
import type { Card } from "@/core/board/card";
import { compareRanks } from "@/core/item/rank";
import type { BacklogRows, BacklogView } from "@/core/plan/backlog-view";
import { planContract } from "@/core/plan/contract";
import { tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, queryOf } from "@/ui/kit/request";
import { useLive } from "@/ui/kit/use-live";
import type { BacklogFilter } from "./use-backlog-filter";

/** Several changes in a moment are one look at the server. */
const SETTLE_MS = 800;

/** The rows with one put in its place, or taken out where it waits no longer. */
function withRow(rows: BacklogRows, card: Card): BacklogRows {
  const { cards, next: following } = rows;
  const known = cards.find((c) => c.id === card.id);
  if (known && known.version > card.version) return rows;
  const rest = cards.filter((c) => c.id !== card.id);
  const waits = card.stateKind === "unstarted" && !card.withdrawn;
  const last = rest.at(-1);
  const inSight =
    following === null || (last !== undefined && compareRanks(card.rank, last.rank) < 0);
  const shown = waits && inSight ? [...rest, card] : rest;
  return { ...rows, cards: shown.sort((a, b) => compareRanks(a.rank, b.rank)) };
}

/**
 * A backlog and as many of its rows as were asked for, kept in step with the server.
 * @param filter what the rows are narrowed to
 */
export function useBacklog(initial: BacklogView, firstRows: BacklogRows, filter: BacklogFilter) {
  const client = useQueryClient();
  const params = { key: initial.project.key };
  const head = queryOf(planContract.backlog, { params });
  const allRows = keyOf(planContract.rows, { params });
  const rowsKey = [...allRows, ...(filter.text === undefined ? [] : [filter.text])];
  const page = (after?: string) =>
    ask(planContract.rows, { params, query: { after, filter: filter.text } });

  const { data: view } = useQuery({ ...head, initialData: initial });
  const { data: rows = firstRows } = useQuery({
    queryKey: rowsKey,
    queryFn: async () => {
      const wanted = client.getQueryData<BacklogRows>(rowsKey)?.cards.length ?? 0;
      let read = await page();
      while (read.next !== null && read.cards.length < wanted) {
        const { cards, around, next, matching } = await page(read.next);
        read = {
          cards: [...read.cards, ...cards],
          around: { ...read.around, ...around },
          next,
          matching,
        };
      }
      return read;
    },
    initialData: filter.isFirst ? firstRows : undefined,
    placeholderData: keepPreviousData,
  });

  const asking = useRef(false);
  const more = async () => {
    const after = rows.next;
    if (asking.current || after === null) return;
    asking.current = true;
    try {
      const { cards, around, next, matching } = await page(after);
      client.setQueryData<BacklogRows>(rowsKey, (now) => {
        const known = new Set(now?.cards.map((c) => c.id));
        const fresh = cards.filter((c) => !known.has(c.id));
        return {
          cards: [...(now?.cards ?? []), ...fresh],
          around: { ...now?.around, ...around },
          next,
          matching,
        };
      });
    } catch (error) {
      tellProblem(error);
    } finally {
      asking.current = false;
    }
  };

  /** The id of the last row of all, whether it was read yet or not. */
  const lastRow = async (): Promise<string | undefined> => {
    let read: BacklogRows | undefined = client.getQueryData<BacklogRows>(rowsKey);
    while (read && read.next !== null) read = await page(read.next);
    return read?.cards.at(-1)?.id;
  };

  const soon = useRef<ReturnType<typeof setTimeout> | null>(null);
  useEffect(() => () => void (soon.current && clearTimeout(soon.current)), []);
  const readAgain = () => {
    void client.invalidateQueries({ queryKey: head.queryKey });
    void client.invalidateQueries({ queryKey: allRows });
    void client.invalidateQueries({ queryKey: keyOf(planContract.reach, { params }) });
  };
  const readSoon = () => {
    if (soon.current) clearTimeout(soon.current);
    soon.current = setTimeout(readAgain, SETTLE_MS);
  };
  const putCard = useCallback(
    (card: Card) => client.setQueryData<BacklogRows>(rowsKey, (now) => now && withRow(now, card)),
    // The key is made of the project, which does not change while its backlog is open, and the filter.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [client, filter.text],
  );
  useLive((message) => {
    if (["design", "counts", "resync"].includes(message.kind)) readAgain();
    if (message.kind !== "item") return;
    // Whether one that is not among the rows belongs there, the server says.
    if (rows.cards.some((c) => c.id === message.card.id)) putCard(message.card);
    readSoon();
  });
  return {
    view,
    rows: rows.cards,
    /** How many there are that are shown, read or not. */
    count: rows.matching ?? view.total,
    around: rows.around,
    filter,
    more,
    putCard,
    readAgain,
    lastRow,
  };
}

export type Backlog = ReturnType<typeof useBacklog>;
