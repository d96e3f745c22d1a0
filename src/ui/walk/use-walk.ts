"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { walkContract, type WalkRequest } from "@/core/walk/contract";
import type { WalkView } from "@/core/walk/walk";
import { tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, queryOf } from "@/ui/kit/request";
import type { LiveMessage } from "@/ui/kit/use-live";
import { useReadAgain } from "@/ui/kit/use-read-again";

const ofWalks = ({ kind }: LiveMessage): boolean => kind === "walk" || kind === "resync";

/** The walks of a board, followed as they go on, and the ways to lead one. */
export function useWalk(projectKey: string, boardId: string, initial: WalkView) {
  const client = useQueryClient();
  const params = { key: projectKey };
  const asked = queryOf(walkContract.read, { params, query: { board: boardId } });
  const { data } = useQuery({ ...asked, initialData: initial });
  useReadAgain(ofWalks, () =>
    client.invalidateQueries({ queryKey: keyOf(walkContract.read, { params }) }),
  );
  const send = async (body: WalkRequest): Promise<boolean> => {
    try {
      const told = await ask(walkContract.change, { params, body });
      client.setQueryData(asked.queryKey, told);
      return true;
    } catch (error) {
      tellProblem(error);
      return false;
    }
  };
  return { walks: data, send };
}

export type WalkSend = ReturnType<typeof useWalk>["send"];
