"use client";
import { useCallback, useEffect, useState } from "react";
import { same } from "@/core/workflow/same";
import type { Workflow } from "@/core/workflow/workflow";
import { keepSteps, keptSteps, type Steps } from "./kept-steps";

/** So many steps can be undone. */
const MOST_STEPS = 200;

/** The same process, whatever its number. */
export const sameProcess = (a: Workflow, b: Workflow) =>
  same({ ...a, version: 0 }, { ...b, version: 0 });

/** Steps that were kept, as they lead to what stands now. */
function leadingTo(kept: Steps, now: Workflow): Steps {
  if (sameProcess(kept.list[kept.at], now)) return kept;
  const list = [...kept.list.slice(0, kept.at + 1), now];
  return { list, at: list.length - 1 };
}

/**
 * A workflow that is being edited, step by step; each step can be undone and made again, after a
 * reload too.
 */
export function useSteps(workflowId: string, first: () => Steps) {
  const [{ list, at }, setSteps] = useState(first);
  const [isKept, setKept] = useState(false);
  // After the first drawing: a server has no steps.
  useEffect(() => {
    const kept = keptSteps(workflowId);
    const timer = setTimeout(() => {
      if (kept) setSteps((now) => (now.at === 0 ? leadingTo(kept, now.list[0]) : now));
      setKept(true);
    });
    return () => clearTimeout(timer);
  }, [workflowId]);
  useEffect(() => {
    if (isKept) keepSteps(workflowId, { list, at });
  }, [isKept, workflowId, list, at]);
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
