"use client";
import { ArrowDownUp } from "lucide-react";
import type { BehindView } from "@/core/item/list/behind";
import { Button } from "@/ui/kit/button";
import { Select } from "@/ui/kit/select";
import type { ListOrder } from "./use-behind";

/** In which groups and which order the items behind a figure stand, as a sentence. */
export function BehindOrder({
  head: { sorts, groupings },
  order,
  onOrder,
}: {
  head: Pick<BehindView, "sorts" | "groupings">;
  order: ListOrder;
  onOrder: (order: ListOrder) => void;
}) {
  const named = (all: typeof sorts) => all.map(({ id, label }) => ({ value: id, label }));
  return (
    <p className="flex shrink-0 flex-wrap items-baseline gap-x-1.5 border-b border-line px-4 py-1 text-[13px] text-ink-soft">
      in groups by
      <Select
        words
        label="In groups by"
        value={order.group}
        options={[{ value: "", label: "nothing" }, ...named(groupings)]}
        onChange={(group) => onOrder({ ...order, group })}
      />
      sorted by
      <Select
        words
        label="Sorted by"
        value={order.sort}
        options={[{ value: "", label: "nothing" }, ...named(sorts)]}
        onChange={(sort) => onOrder({ ...order, sort, descending: false })}
      />
      {order.sort !== "" && (
        <Button
          look="quiet"
          small
          className="!px-1"
          aria-label="Turn the order round"
          aria-pressed={order.descending}
          onClick={() => onOrder({ ...order, descending: !order.descending })}
        >
          <ArrowDownUp size={13} aria-hidden="true" />
        </Button>
      )}
    </p>
  );
}
