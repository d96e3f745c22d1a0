"use client";
import { useEffect } from "react";
import { BehindPanel } from "@/ui/flow/behind-panel";
import { ItemPanel } from "@/ui/item/item-panel";
import { usePanel } from "@/ui/kit/panel-context";

/** What is docked at the right of a page: an item, or the items behind a figure. */
export function Docked({ projectKey }: { projectKey: string }) {
  const { itemKey, behind, close } = usePanel();
  const open = itemKey !== null || behind !== null;
  useEffect(() => {
    if (!open) return;
    const onKey = (event: KeyboardEvent) => {
      if (
        event.key === "Escape" &&
        !event.defaultPrevented &&
        !document.querySelector("[data-radix-popper-content-wrapper],[role=dialog]")
      )
        close();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [open, close]);
  if (itemKey) return <ItemPanel itemKey={itemKey} />;
  if (behind) return <BehindPanel projectKey={projectKey} behind={behind} />;
  return null;
}
