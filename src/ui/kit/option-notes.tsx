"use client";
import { createContext, useContext } from "react";

/** What is said of something wherever it can be chosen. */
export interface OptionNote {
  words: string;
  alarm: boolean;
}

/** By the value of an option, as the id of a person; what has no note says nothing. */
export const OptionNotes = createContext<Readonly<Record<string, OptionNote>>>({});

/** What is said of an option beside its label. */
export const useOptionNote = (value: string): OptionNote | undefined =>
  useContext(OptionNotes)[value];

/** The same as it stands beside the label. */
export function NoteBeside({ value }: { value: string }) {
  const note = useOptionNote(value);
  if (!note) return null;
  return (
    <span className={`pl-3 text-[12px] ${note.alarm ? "text-alarm" : "text-ink-soft"}`}>
      {note.words}
    </span>
  );
}
