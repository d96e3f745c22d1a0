"use client";
import { X } from "lucide-react";
import { useState } from "react";
import { Button } from "@/ui/kit/button";

/** What of an address could not be shown, until somebody has read it. */
export function LookNotes({ notes }: { notes: readonly string[] }) {
  const [read, setRead] = useState(false);
  if (read || notes.length === 0) return null;
  return (
    <div
      role="status"
      className="mt-1 flex items-start gap-2 border-l-[3px] border-signal bg-signal-soft px-3 py-1 text-[13px]"
    >
      <p className="flex-1">{notes.join(" ")}</p>
      <Button look="quiet" small aria-label="I have read it" onClick={() => setRead(true)}>
        <X size={14} aria-hidden="true" />
      </Button>
    </div>
  );
}
