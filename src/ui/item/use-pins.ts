"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useState } from "react";
import { pinsContract, type PinRequest } from "@/core/item/pins/contract";
import type { Pin } from "@/core/item/pins/pin";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, queryOf } from "@/ui/kit/request";

/** Puts in the pins that came with the page. */
export function useFirstPins(first: Pin[]): void {
  const client = useQueryClient();
  useState(() => client.setQueryData(keyOf(pinsContract.read), first));
}

/** What I have pinned for myself, and the ways to change that. */
export function usePins() {
  const client = useQueryClient();
  const { data } = useQuery({ ...queryOf(pinsContract.read, {}), staleTime: Infinity });
  const pins = useMemo(() => data ?? [], [data]);
  const ids = useMemo(() => new Set(pins.map(({ id }) => id)), [pins]);
  const send = useCallback(
    async (body: PinRequest) => {
      const told = await ask(pinsContract.change, { body });
      client.setQueryData(keyOf(pinsContract.read), told);
    },
    [client],
  );
  const turn = useCallback(
    async ({ id, key }: { id: string; key: string }) => {
      const pinned = ids.has(id);
      const [there, back] = pinned ? (["unpin", "pin"] as const) : (["pin", "unpin"] as const);
      try {
        await send({ kind: there, itemId: id });
        tellDone(pinned ? `${key} is pinned no more.` : `${key} is among your pins.`, () =>
          send({ kind: back, itemId: id }),
        );
      } catch (error) {
        tellProblem(error);
      }
    },
    [ids, send],
  );
  /** Puts them in another order: at once on the page, then stored. */
  const order = useCallback(
    async (next: readonly Pin[]) => {
      client.setQueryData(keyOf(pinsContract.read), [...next]);
      try {
        await send({ kind: "order", ids: next.map(({ id }) => id) });
      } catch (error) {
        client.setQueryData(keyOf(pinsContract.read), pins);
        tellProblem(error);
      }
    },
    [client, send, pins],
  );
  return {
    pins,
    isPinned: (id: string) => ids.has(id),
    turn: (card: { id: string; key: string }) => void turn(card),
    order: (next: readonly Pin[]) => void order(next),
    readAgain: () => client.invalidateQueries({ queryKey: keyOf(pinsContract.read) }),
  };
}
