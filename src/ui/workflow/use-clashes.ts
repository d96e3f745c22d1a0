"use client";
import { useCallback, useState } from "react";
import type { Clash, Merged } from "@/core/workflow/merge";
import type { Workflow } from "@/core/workflow/workflow";

/** Something that both changed, while nobody has said whose it is to be. */
export interface OpenClash {
  clash: Clash;
  /** The draft as one had it oneself. */
  mine: Workflow;
  /** Who the other one is. */
  by: string;
}

/** What is asked after two drafts were brought together. */
export const openClashes = ({ clashes }: Merged, mine: Workflow, by: string): OpenClash[] =>
  clashes.map((clash) => ({ clash, mine, by }));

const aboutTheSame = (a: Clash, b: Clash) => a.id === b.id && a.field === b.field;

/** The clashes that wait for an answer; what is asked anew of one thing takes the older's place. */
export function useClashes(first: () => OpenClash[]) {
  const [clashes, setClashes] = useState(first);
  const ask = useCallback((found: OpenClash[]) => {
    if (found.length === 0) return;
    setClashes((before) => [
      ...before.filter((b) => !found.some((f) => aboutTheSame(f.clash, b.clash))),
      ...found,
    ]);
  }, []);
  const answered = useCallback(
    (clash: Clash) => setClashes((open) => open.filter((o) => !aboutTheSame(o.clash, clash))),
    [],
  );
  return { clashes, ask, answered };
}
