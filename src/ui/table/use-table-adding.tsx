"use client";
import { useState, type ReactNode } from "react";
import { EVERY_ITEM } from "@/core/condition/condition";
import { groupMeaning } from "@/core/item/list/group";
import type { TableGroup } from "@/core/item/list/table";
import type { LookHandle } from "@/ui/view/use-look";
import { AddInTable } from "./add-in-table";

/** Adding in a table: which of its groups is open for it, or its foot. */
export function useTableAdding(handle: LookHandle, groups: readonly TableGroup[]) {
  const [open, setOpen] = useState<number | "foot" | null>(null);
  const { look, views } = handle;
  const opened = (place: number | "foot") => ({
    open: open === place,
    onOpenChange: (next: boolean) => setOpen(next ? place : null),
  });
  return {
    /** Opens what adds to a group; null: to the foot. */
    open: (group: number | null) => views.rights.edit && setOpen(group ?? "foot"),
    inGroup: (group: number): ReactNode => {
      const { key, label } = groups[group];
      const meaning = look.group && groupMeaning(look.group, key);
      return meaning && views.rights.edit ? (
        <AddInTable
          handle={handle}
          meaning={meaning}
          at="head"
          words={`the head of ${label}`}
          {...opened(group)}
        />
      ) : null;
    },
    atFoot: views.rights.edit ? (
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
