"use client";
import { useState } from "react";
import { EVERY_ITEM, type Condition } from "@/core/condition/condition";
import { asksNothing, filterText } from "@/core/plan/backlog-filter";

/** What a backlog is narrowed to; the address names it. */
export function useBacklogFilter(first: Condition | undefined) {
  const [filter, setFilter] = useState<Condition>(first ?? EVERY_ITEM);
  const narrow = (next: Condition) => {
    setFilter(next);
    const address = new URL(window.location.href);
    const text = filterText(next);
    if (text === undefined) address.searchParams.delete("filter");
    else address.searchParams.set("filter", text);
    window.history.replaceState(null, "", address);
  };
  return {
    filter,
    /** As it is asked for; nothing where all is shown. */
    text: filterText(filter),
    isFirst: filterText(filter) === filterText(first ?? EVERY_ITEM),
    narrows: !asksNothing(filter),
    narrow,
    showAll: () => narrow(EVERY_ITEM),
  };
}

export type BacklogFilter = ReturnType<typeof useBacklogFilter>;
