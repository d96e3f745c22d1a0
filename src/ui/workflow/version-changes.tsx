"use client";
import { useQuery } from "@tanstack/react-query";
import { workflowContract } from "@/core/workflow/contract";
import { differences } from "@/core/workflow/difference";
import type { CheckSurroundings } from "@/core/workflow/finding";
import type { Workflow } from "@/core/workflow/workflow";
import { problemOf, queryOf } from "@/ui/kit/request";
import { ChangeLines } from "./change-lines";

/** A version of a workflow as it was published; a published version never changes. */
export function useVersion(key: string, workflow: string, version: number) {
  return useQuery({
    ...queryOf(workflowContract.version, { params: { key }, query: { workflow, version } }),
    enabled: version > 0,
    staleTime: Infinity,
  });
}

/** What is different from one workflow to another. */
export function Changes({
  from,
  to,
  around,
}: {
  from: Workflow;
  to: Workflow;
  around: CheckSurroundings;
}) {
  const changes = differences(from, to, around.vocabulary);
  if (changes.length === 0) return <p className="text-[13px] text-ink-soft">They are the same.</p>;
  return <ChangeLines changes={changes} />;
}

/** What a version changed of the one before it. */
export function VersionChanges({
  projectKey,
  workflowId,
  version,
  around,
}: {
  projectKey: string;
  workflowId: string;
  version: number;
  around: CheckSurroundings;
}) {
  const before = useVersion(projectKey, workflowId, version - 1);
  const after = useVersion(projectKey, workflowId, version);
  const error = before.error ?? after.error;
  if (error) return <p className="text-[13px] text-alarm">{problemOf(error).sentence}</p>;
  if (!before.data || !after.data) return <p className="text-[13px] text-ink-soft">One moment…</p>;
  return <Changes from={before.data} to={after.data} around={around} />;
}
