"use client";
import { X } from "lucide-react";
import { counted } from "@/core/formats/counted";
import { Button } from "@/ui/kit/button";

/** What is chosen and what can be done with it. */
export function ChosenBar({
  count,
  onCopy,
  onDrop,
}: {
  count: number;
  onCopy: () => void;
  onDrop: () => void;
}) {
  if (count === 0) return null;
  return (
    <div role="region" aria-label="Chosen rows" className="chosen-bar">
      <b>{counted(count, "row")} chosen</b>
      <Button small onClick={onCopy}>
        Copy <kbd>Ctrl C</kbd>
      </Button>
      <span className="flex-1" />
      <Button look="quiet" small aria-label="Choose none" onClick={onDrop}>
        <X size={14} aria-hidden="true" />
      </Button>
    </div>
  );
}
