"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { v7 as newId } from "uuid";
import { shipContract } from "@/core/ship/contract";
import type { DeployAsk } from "@/core/ship/deploy-ask";
import type { Environment } from "@/core/ship/environment";
import type { WhatIsWhere } from "@/core/ship/what-is-where-view";
import { tellDone } from "@/ui/kit/notice";
import { ask, problemOf, queryOf, type Problem } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

/** Which items are where, kept in step with what the code hosts and pipelines tell. */
export function useWhatIsWhere(initial: WhatIsWhere) {
  const client = useQueryClient();
  const params = { key: initial.project.key };
  const query = queryOf(shipContract.whatIsWhere, { params });
  const { data: view } = useQuery({ ...query, initialData: initial });
  const readAgain = () => client.invalidateQueries({ queryKey: query.queryKey });
  useReadAgain(({ kind }) => ["code", "item", "design", "resync"].includes(kind), readAgain);
  const store = async (environments: readonly Environment[]) => {
    await ask(shipContract.environments, { params, body: { environments: [...environments] } });
    await readAgain();
  };
  /** Says which environments there are. @returns what was wrong; null where it is stored */
  const settle = async (environments: readonly Environment[]): Promise<Problem | null> => {
    const before = view.environments.map(plain);
    try {
      await store(environments);
      tellDone("The environments are changed.", () => store(before));
      return null;
    } catch (error) {
      return problemOf(error);
    }
  };
  /** Asks the pipeline for a deployment. @returns what was wrong; null where it is asked for */
  const deploy = async (
    wanted: Omit<DeployAsk, "id">,
    environment: string,
  ): Promise<Problem | string | null> => {
    try {
      const { refused } = await ask(shipContract.askPipeline, {
        params,
        body: { ...wanted, id: newId() },
      });
      await readAgain();
      if (refused !== null) return refused;
      tellDone(`${wanted.build} is asked for on ${environment}.`);
      return null;
    } catch (error) {
      return problemOf(error);
    }
  };
  return { view, settle, deploy };
}

/** An environment without what is on it. */
export const plain = ({ id, name, address, live, freezes }: Environment): Environment => ({
  ...{ id, name, address, live, freezes },
});

export type WhereHandle = ReturnType<typeof useWhatIsWhere>;
