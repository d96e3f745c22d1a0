"use client";
import { useState, type ReactNode } from "react";
import { EVERY_ITEM } from "@/core/condition/condition";
import { groupMeaning } from "@/core/item/list/group";
import type { TableGroup } from "@/core/item/list/table";
import type { Card } from "@/core/board/card";
import { AddUnder, addsTo } from "@/ui/adding/add-under";
import { Beside } from "@/ui/kit/beside";
import { useKnownTypes } from "@/ui/kit/type-glyph";
import type { LookHandle } from "@/ui/view/use-look";
import { AddInTable } from "./add-in-table";

/** Adding in a table: which of its groups is open for it, or its foot. */
export function useTableAdding(handle: LookHandle, groups: readonly TableGroup[]) {
  const [open, setOpen] = useState<number | "foot" | null>(null);
  const [under, setUnder] = useState<Card | null>(null);
  const types = useKnownTypes();
  const { look, views } = handle;
  const leave = () => setUnder(null);
  const opened = (place: number | "foot") => ({
    open: open === place,
    onOpenChange: (next: boolean) => setOpen(next ? place : null),
  });
  return {
    /** Opens what adds to a group; null: to the foot. */
    open: (group: number | null) => views.rights.add && setOpen(group ?? "foot"),
    inGroup: (group: number): ReactNode => {
      const { key, label } = groups[group];
      const meaning = look.group && groupMeaning(look.group, key);
      return meaning && views.rights.add ? (
        <AddInTable
          handle={handle}
          meaning={meaning}
          at="head"
          words={`the head of ${label}`}
          {...opened(group)}
        />
      ) : null;
    },
    /** Opens what adds to an item, where anything can be added to it. */
    openUnder: (card: Card) => {
      if (views.rights.add && addsTo(card, types).length > 0) setUnder(card);
    },
    under: under && (
      <Beside at={`[data-row="${under.key}"]`} label={`Add to ${under.key}`} onClose={leave}>
        <AddUnder handle={handle} card={under} onLeave={leave} />
      </Beside>
    ),
    atFoot: views.rights.add ? (
      <AddInTable
        handle={handle}
        meaning={EVERY_ITEM}
        at="foot"
        words="the foot of the table"
        {...opened("foot")}
      />
    ) : null,
  };
}
