"use client";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef } from "react";
import type { AroundItems } from "@/core/board/around";
import type { Card } from "@/core/board/card";
import type { FactValue } from "@/core/condition/facts";
import { withCard, withPage } from "@/core/plan/backlog-pages";
import { sectionsIn, type BacklogSection } from "@/core/plan/backlog-sections";
import type { BacklogRows, BacklogView } from "@/core/plan/backlog-view";
import { planContract } from "@/core/plan/contract";
import { tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, queryOf } from "@/ui/kit/request";
import { useLive } from "@/ui/kit/use-live";
import type { BacklogFilter } from "./use-backlog-filter";
import type { BacklogLookHandle } from "./use-backlog-look";

/** Several changes in a moment are one look at the server. */
const SETTLE_MS = 800;

/** The rows of each part that were read, by its id. */
export type SectionRows = Readonly<Record<string, BacklogRows>>;

/** A part of the backlog with its rows. */
export interface ShownSection {
  section: BacklogSection;
  /** None where they are still on their way. */
  cards: readonly Card[];
  /** How many there are, read or not; null until that is known. */
  count: number | null;
}

/** A part with the rows of it that were read. */
const shownSection = (
  section: BacklogSection,
  read: BacklogRows | undefined,
  total: number,
): ShownSection => ({
  section,
  cards: read?.cards ?? [],
  count: read ? (read.matching ?? total) : null,
});

/** What the rows of all parts say. */
function saidIn(rows: SectionRows) {
  const all = Object.values(rows);
  return {
    around: Object.assign({}, ...all.map((one) => one.around)) as AroundItems,
    values: Object.assign({}, ...all.map((one) => one.values)) as Record<string, FactValue[]>,
    parents: Object.assign({}, ...all.map((one) => one.parents)) as BacklogRows["parents"],
  };
}

/** Does something once nobody has asked for it any more for a moment. */
function useSettled(act: () => void): () => void {
  const soon = useRef<ReturnType<typeof setTimeout> | null>(null);
  useEffect(() => () => void (soon.current && clearTimeout(soon.current)), []);
  return () => {
    if (soon.current) clearTimeout(soon.current);
    soon.current = setTimeout(act, SETTLE_MS);
  };
}

/**
 * A backlog and as many of its rows as were asked for, kept in step with the server.
 * @param filter what the rows are narrowed to
 * @param look in which parts they stand, and what they say
 */
export function useBacklog(
  initial: BacklogView,
  firstRows: SectionRows,
  filter: BacklogFilter,
  { look, change }: BacklogLookHandle,
) {
  const client = useQueryClient();
  const params = { key: initial.project.key };
  const head = queryOf(planContract.backlog, { params });
  const { data: view } = useQuery({ ...head, initialData: initial });
  const sections = sectionsIn(view, look.order);
  const allRows = keyOf(planContract.rows, { params });
  const asked = {
    order: look.order,
    columns: look.columns.join(","),
    filter: filter.text,
  };
  const rowsKey = [...allRows, { ...asked, sections: sections.map(({ id }) => id) }];
  const isFirst =
    filter.isFirst &&
    look.order === initial.look.order &&
    asked.columns === initial.look.columns.join(",");
  const page = (section: string, after?: string) =>
    ask(planContract.rows, { params, query: { ...asked, section, after } });
  /** As many rows of a part as there were before, or its first page. */
  const readSection = async (section: string, wanted: number) => {
    let read = await page(section);
    while (read.next !== null && read.cards.length < wanted)
      read = withPage(read, await page(section, read.next));
    return read;
  };
  const { data: rows = firstRows } = useQuery({
    queryKey: rowsKey,
    queryFn: async (): Promise<SectionRows> => {
      const before = client.getQueryData<SectionRows>(rowsKey);
      const read = sections.map(
        async ({ id }) => [id, await readSection(id, before?.[id]?.cards.length ?? 0)] as const,
      );
      return Object.fromEntries(await Promise.all(read));
    },
    initialData: isFirst ? firstRows : undefined,
    placeholderData: keepPreviousData,
  });

  const asking = useRef(new Set<string>());
  const more = async (section: string) => {
    const after = rows[section]?.next ?? null;
    if (asking.current.has(section) || after === null) return;
    asking.current.add(section);
    try {
      const read = await page(section, after);
      client.setQueryData<SectionRows>(
        rowsKey,
        (now) => now && { ...now, [section]: withPage(now[section], read) },
      );
    } catch (error) {
      tellProblem(error);
    } finally {
      asking.current.delete(section);
    }
  };

  /** The id of the last row of a part, whether it was read yet or not. */
  const lastRow = async (section: string): Promise<string | undefined> => {
    let read: BacklogRows | undefined = client.getQueryData<SectionRows>(rowsKey)?.[section];
    while (read && read.next !== null) read = await page(section, read.next);
    return read?.cards.at(-1)?.id;
  };

  const readAgain = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: head.queryKey }),
      client.invalidateQueries({ queryKey: allRows }),
      client.invalidateQueries({ queryKey: keyOf(planContract.reach, { params }) }),
      client.invalidateQueries({ queryKey: keyOf(planContract.counts, { params }) }),
    ]);
  const readSoon = useSettled(() => void readAgain());
  const place = JSON.stringify(rowsKey);
  const putCard = useCallback(
    (card: Card) =>
      client.setQueryData<SectionRows>(
        rowsKey,
        (now) =>
          now &&
          Object.fromEntries(
            sections.map((section) => [
              section.id,
              now[section.id] && withCard(now[section.id], section, card),
            ]),
          ),
      ),
    // The key says which sections there are.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [client, place],
  );
  const shown = sections.map((section) => shownSection(section, rows[section.id], view.total));
  const cards = shown.flatMap((one) => one.cards);
  useLive((message) => {
    if (["design", "counts", "resync"].includes(message.kind)) void readAgain();
    if (message.kind !== "item") return;
    // Whether one that is not among the rows belongs there, the server says.
    if (cards.some((c) => c.id === message.card.id)) putCard(message.card);
    readSoon();
  });
  return {
    view,
    sections: shown,
    /** The rows of all parts, from the first to the last. */
    rows: cards,
    said: saidIn(rows),
    filter,
    look,
    changeLook: change,
    more,
    putCard,
    readAgain,
    lastRow,
  };
}

export type Backlog = ReturnType<typeof useBacklog>;
