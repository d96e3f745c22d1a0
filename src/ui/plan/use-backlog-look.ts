"use client";
import { useRef, useState } from "react";
import type { BacklogLook } from "@/core/plan/backlog-look";
import { planContract } from "@/core/plan/contract";
import { tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";

/** How this person looks at a backlog; it is kept for them, on every machine. */
export function useBacklogLook(projectKey: string, first: BacklogLook) {
  const [look, setLook] = useState(first);
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const change = (parts: Partial<BacklogLook>) => {
    const next = { ...look, ...parts };
    setLook(next);
    const body = {
      order: next.order,
      columns: [...next.columns],
      counts: [...next.counts],
    };
    // One after the other: what was said last is what stays.
    line.current = line.current
      .then(() => ask(planContract.keepLook, { params: { key: projectKey }, body }))
      .catch(tellProblem);
  };
  return { look, change };
}

export type BacklogLookHandle = ReturnType<typeof useBacklogLook>;
