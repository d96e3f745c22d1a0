"use client";
import { Pin } from "lucide-react";
import { Button } from "@/ui/kit/button";
import { usePins } from "./use-pins";

/** Puts an item among one's pins, or takes it out. */
export function PinButton({ id, itemKey }: { id: string; itemKey: string }) {
  const { isPinned, turn } = usePins();
  const pinned = isPinned(id);
  return (
    <Button
      look="quiet"
      small
      aria-label={`Pin ${itemKey} for me`}
      aria-pressed={pinned}
      title={pinned ? "Among your pins" : "Pin it for me"}
      onClick={() => turn({ id, key: itemKey })}
    >
      <Pin size={15} aria-hidden="true" fill={pinned ? "currentColor" : "none"} />
    </Button>
  );
}
