"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { acrossContract, type AcrossPlaces, type AcrossRequest } from "@/core/across/contract";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, queryOf } from "@/ui/kit/request";

/** Sends a change of groups of projects; true when it was done. */
export type AcrossSend = (
  body: AcrossRequest,
  done: string,
  undo?: AcrossRequest,
) => Promise<boolean>;

/** The places above the projects, and the ways to change groups of projects. */
export function useAcross(first: AcrossPlaces): { across: AcrossPlaces; send: AcrossSend } {
  const client = useQueryClient();
  const { data } = useQuery({ ...queryOf(acrossContract.read, {}), initialData: first });
  const send = useCallback<AcrossSend>(
    async (body, done, undo) => {
      const change = async (asked: AcrossRequest) => {
        const told = await ask(acrossContract.change, { body: asked });
        client.setQueryData(keyOf(acrossContract.read), told);
      };
      try {
        await change(body);
        tellDone(done, undo && (() => change(undo)));
        return true;
      } catch (error) {
        tellProblem(error);
        return false;
      }
    },
    [client],
  );
  return { across: data, send };
}
