"use client";
import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { boardContract } from "@/core/board/contract";
import type { AskedOf, Contract } from "@/core/contract/contract";
import { itemContract } from "@/core/item/contract";
import { planContract } from "@/core/plan/contract";
import { workflowContract } from "@/core/workflow/contract";
import { ask, keyOf } from "@/ui/kit/request";
import type z from "zod";

/** What belongs to a process and is changed at once. */
const CHANGES = {
  project: workflowContract.editProject,
  putAway: workflowContract.putProjectAway,
  types: workflowContract.types,
  fields: itemContract.fields,
  plan: planContract.change,
  boards: boardContract.change,
  workflows: workflowContract.editWorkflows,
};

/**
 * Sends a change of what belongs to a project's process, reads the process again, and says what was
 * done. True when it was.
 */
export type DesignRequest = <W extends keyof typeof CHANGES>(
  what: W,
  body: z.input<(typeof CHANGES)[W]["body"]>,
  done?: string,
  undo?: () => Promise<unknown>,
) => Promise<boolean>;

export function useDesignRequest(projectKey: string): DesignRequest {
  const client = useQueryClient();
  return useCallback(
    async (what, body, done, undo) => {
      try {
        const asked = { params: { key: projectKey }, body };
        await ask<Contract>(CHANGES[what], asked as AskedOf<Contract>);
        if (done) tellDone(done, undo && (async () => void (await undo())));
        return true;
      } catch (error) {
        tellProblem(error);
        return false;
      } finally {
        await client.invalidateQueries({
          queryKey: keyOf(workflowContract.design, { params: { key: projectKey } }),
        });
      }
    },
    [client, projectKey],
  );
}
