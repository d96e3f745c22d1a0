"use client";
import { useQuery } from "@tanstack/react-query";
import { flowContract } from "@/core/flow/contract";
import type { ProjectSummary } from "@/core/flow/summary";
import { queryOf } from "@/ui/kit/request";

/** The figures of a project as they stand; the first ones came with the page. */
export function useSummary(projectKey: string, initial: ProjectSummary): ProjectSummary {
  const asked = queryOf(flowContract.summary, { params: { key: projectKey } });
  return useQuery({ ...asked, initialData: initial }).data;
}
