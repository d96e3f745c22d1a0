"use client";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { findContract } from "@/core/find/contract";
import { NOTHING_FOUND, type FoundItem } from "@/core/find/found";
import { tellProblem } from "@/ui/kit/notice";
import { ask, queryOf } from "@/ui/kit/request";

/** So many letters are looked for at least. */
const SHORTEST = 2;

/** So long nobody types before the server is asked. */
const SETTLE_MS = 90;

/** A text once it stands for a moment. */
function useSettled(text: string): string {
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), SETTLE_MS);
    return () => clearTimeout(timer);
  }, [text]);
  return settled;
}

/** What is found for some words; until it is there, what was found before stands. */
export function useFound(text: string, at: string) {
  const q = useSettled(text.trim());
  const enabled = q.length >= SHORTEST;
  const { data, isError, isPlaceholderData, isPending } = useQuery({
    ...queryOf(findContract.find, { query: { q, at } }, { retry: false }),
    enabled,
    placeholderData: keepPreviousData,
  });
  const [further, setFurther] = useState<{ q: string; rows: FoundItem[]; next: string | null }>();
  const found = enabled ? (data ?? NOTHING_FOUND) : NOTHING_FOUND;
  const more = further?.q === q ? further : { rows: [], next: found.items.next };
  const next = isPlaceholderData ? null : more.next;
  return {
    found,
    items: [...found.items.rows, ...more.rows],
    /** Reads the items that follow; null where there are none. */
    readMore:
      next === null
        ? null
        : async () => {
            try {
              const page = await ask(findContract.items, { query: { q, at, after: next } });
              setFurther({ q, rows: [...more.rows, ...page.rows], next: page.next });
            } catch (error) {
              tellProblem(error);
            }
          },
    looking: enabled && isPending,
    failed: enabled && isError,
  };
}
