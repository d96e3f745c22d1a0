"use client";
import type { ItemView } from "@/core/item/item-view";
import { ItemBody } from "./item-body";
import { useItem } from "./use-item";

/** The item on a page of its own. */
export function ItemPage({ initial }: { initial: ItemView }) {
  const { handle } = useItem(initial.key, initial);
  if (!handle) return null;
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1180px] px-6 py-5">
        <h1 className="key mb-2 !text-[14px]">{initial.key}</h1>
        <ItemBody handle={handle} wide />
      </div>
    </div>
  );
}
