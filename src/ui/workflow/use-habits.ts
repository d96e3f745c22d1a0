"use client";
import { useQuery } from "@tanstack/react-query";
import { workflowContract } from "@/core/workflow/contract";
import { queryOf } from "@/ui/kit/request";

/** How a process was really walked lately. */
export const useHabits = (projectKey: string, workflowId: string) =>
  useQuery(
    queryOf(workflowContract.habits, {
      params: { key: projectKey },
      query: { workflow: workflowId },
    }),
  );
