"use client";
import { useCallback, useState } from "react";
import { same } from "@/core/workflow/same";
import type { Workflow } from "@/core/workflow/workflow";

/** So many steps can be undone. */
const MOST_STEPS = 200;

/** What was there, one after the other, and which of it stands now. */
export interface Steps {
  list: Workflow[];
  at: number;
}

/** The same process, whatever its number. */
export const sameProcess = (a: Workflow, b: Workflow) =>
  same({ ...a, version: 0 }, { ...b, version: 0 });

/** A workflow that is being edited, step by step; each step can be undone and made again. */
export function useSteps(first: () => Steps) {
  const [{ list, at }, setSteps] = useState(first);
  const edit = useCallback((change: (workflow: Workflow) => Workflow) => {
    setSteps((steps) => {
      const now = steps.list[steps.at];
      const next = change(now);
      if (next === now) return steps;
      const kept = steps.list.slice(Math.max(0, steps.at - MOST_STEPS), steps.at + 1);
      return { list: [...kept, next], at: kept.length };
    });
  }, []);
  /** Puts another one in its place, unless it says the same. */
  const put = useCallback(
    (workflow: Workflow) => edit((now) => (sameProcess(now, workflow) ? now : workflow)),
    [edit],
  );
  const go = useCallback(
    (by: 1 | -1) =>
      setSteps((steps) => ({
        ...steps,
        at: Math.max(0, Math.min(steps.list.length - 1, steps.at + by)),
      })),
    [],
  );
  const undo = useCallback(() => go(-1), [go]);
  const redo = useCallback(() => go(1), [go]);
  return {
    draft: list[at],
    edit,
    put,
    undo: at > 0 ? undo : null,
    redo: at < list.length - 1 ? redo : null,
  };
}
