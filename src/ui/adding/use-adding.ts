"use client";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Card } from "@/core/board/card";
import { EVERY_ITEM, type Condition } from "@/core/condition/condition";
import { addingContract, type Adding } from "@/core/item/adding/contract";
import type { StateId } from "@/core/workflow/state";
import { makeItem } from "@/ui/item/send-command";
import { queryOf } from "@/ui/kit/request";
import type { LookHandle } from "@/ui/view/use-look";

/** A place among items where another can be added. */
export interface AddPlace {
  /** What it means, as a condition. */
  meaning: Condition;
  /** The states of its column; none: where items begin. */
  states: readonly StateId[];
  /** What items there stand under. */
  parentId?: string | null;
  /** The type of what they stand under, where that says which types can. */
  underTypeId?: string;
  /** Where it stands among those that are there. */
  at: "head" | "foot";
  /** What it is called, as "the foot of Build". */
  words: string;
}

/**
 * What adding at a place means there, under the view and the filter that are on, and adding itself.
 */
export function useAdding({ projectKey, look }: LookHandle, place: AddPlace) {
  const [typeId, setTypeId] = useState<string | null>(null);
  const params = { key: projectKey };
  const { data, error } = useQuery({
    ...queryOf(addingContract.plan, {
      params,
      body: {
        board: look.arrangement === "board" ? look.board : null,
        place: place.meaning,
        scope: look.scope,
        filter: look.filter,
        states: [...place.states],
        underTypeId: place.underTypeId ?? null,
        typeId,
      },
    }),
    placeholderData: keepPreviousData,
    staleTime: 30_000,
  });
  /** Makes one of them. @throws Problem */
  const make = ({ fields, own, typeId: type }: Adding, title: string): Promise<Card> =>
    makeItem({
      projectKey,
      parentId: place.parentId ?? null,
      fields: { ...fields, title, typeId: type, own },
    });
  return { adding: data ?? null, error, setTypeId, make };
}

/** A place that asks for nothing but what the view asks for: where items begin. */
export const AT_THE_BEGINNING: Pick<AddPlace, "meaning" | "states"> = {
  meaning: EVERY_ITEM,
  states: [],
};
