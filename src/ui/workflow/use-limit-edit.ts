"use client";
import { useQueryClient } from "@tanstack/react-query";
import { boardContract } from "@/core/board/contract";
import { boundsOf, NO_LIMIT } from "@/core/board/limit";
import { countingOf, PLAIN_COUNTING } from "@/core/board/limit-counting";
import { workflowContract } from "@/core/workflow/contract";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf } from "@/ui/kit/request";
import type { LimitRow } from "./limit-rows";
import type { LimitChange } from "./limit-table";

/** A limit as it will be. */
const changed = (limit: LimitRow["limit"], change: LimitChange) => ({
  ...boundsOf(limit ?? NO_LIMIT),
  ...countingOf(limit ?? PLAIN_COUNTING),
  ...change,
});

/** Stores limits of a project's boards and people; each says whether it was taken. */
export function useLimitEdit(key: string) {
  const client = useQueryClient();
  const stored = async (work: Promise<unknown>): Promise<boolean> => {
    try {
      await work;
      tellDone("The limit has changed; open boards follow.");
      return true;
    } catch (error) {
      tellProblem(error);
      return false;
    } finally {
      await client.invalidateQueries({
        queryKey: keyOf(workflowContract.design, { params: { key } }),
      });
    }
  };
  return {
    limit: (
      board: { id: string; version: number },
      { on, of, limit }: Pick<LimitRow, "on" | "of" | "limit">,
      change: LimitChange,
    ) => {
      const { workedOnly: _, ...next } = changed(limit, change);
      const body = { boardId: board.id, seenVersion: board.version, on, of, ...next };
      return stored(ask(boardContract.limit, { params: { key }, body }));
    },
    person: (personId: string, limit: LimitRow["limit"], change: LimitChange) => {
      const { fixedDatePasses: _, ...next } = changed(limit, change);
      const body = { personId, ...next };
      return stored(ask(boardContract.personLimit, { params: { key }, body }));
    },
  };
}

export type LimitEdit = ReturnType<typeof useLimitEdit>;
