"use client";
import type { ReactNode } from "react";
import { dayWords } from "@/core/calendar/day-words";
import type { WalkNote } from "@/core/walk/walk";
import { usePanel } from "@/ui/kit/panel-context";

const today = (): string => new Date().toISOString().slice(0, 10);

/** What was said of items on a walk: whose it is, by when, and what. */
export function WalkNotes({
  notes,
  saysKind = false,
  tool,
}: {
  notes: readonly WalkNote[];
  /** Whether what is left for later is told from what is agreed on. */
  saysKind?: boolean;
  /** What stands beside each. */
  tool?: (note: WalkNote) => ReactNode;
}) {
  const { openItem } = usePanel();
  return (
    <ul>
      {notes.map((note) => (
        <li key={note.id} className="border-b border-line py-1.5" data-note={note.kind}>
          <p className="flex items-baseline gap-2 text-[12.5px] text-ink-soft">
            <button
              type="button"
              className="key hover:underline"
              title={note.title}
              onClick={() => openItem(note.key)}
            >
              {note.key}
            </button>
            {[
              note.kind === "later" && saysKind && "left for later",
              note.owner?.name,
              note.dueOn && `by ${dayWords(note.dueOn, today())}`,
            ]
              .filter(Boolean)
              .join(", ")}
            <span className="flex-1" />
            {tool?.(note)}
          </p>
          <p className="font-semibold">{note.text}</p>
        </li>
      ))}
    </ul>
  );
}
