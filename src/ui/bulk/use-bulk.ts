"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { v7 as newId } from "uuid";
import type { BulkAct } from "@/core/item/bulk/act";
import { bulkContract, type BulkItems, type BulkRequest } from "@/core/item/bulk/contract";
import { isGoingOn, leftOutCount, type BulkJob } from "@/core/item/bulk/job";
import { counted } from "@/core/formats/counted";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, queryOf } from "@/ui/kit/request";

const LOOK_MS = 400;
/** A page that waits for a job looks so often at most; what takes longer goes on without it. */
const MOST_LOOKS = 20;

/** How a job ended, in a sentence. */
export function endWords({ words, state, done, same, total, leftOut }: BulkJob): string {
  const left = leftOutCount(leftOut);
  const parts = [
    `${counted(done, "item")} ${words}`,
    same > 0 && `${same} so already`,
    left > 0 && `${left} left out`,
    state === "cancelled" && `stopped before ${counted(total - done - same - left, "item")}`,
  ];
  return `${parts.filter(Boolean).join(", ")}.`;
}

/**
 * What a person does to several items: it goes on without the page; the page looks how far it is, and
 * says how it ended.
 */
export function useBulk(projectKey: string) {
  const client = useQueryClient();
  const params = { key: projectKey };
  const { data } = useQuery({
    ...queryOf(bulkContract.jobs, { params }),
    refetchInterval: ({ state }) => (state.data?.jobs.some(isGoingOn) ? LOOK_MS : false),
  });
  const jobs = data?.jobs ?? [];
  // A job that was begun here, or seen going on, and has ended is told of once.
  const going = useRef(new Set<string>());
  const send = async (body: BulkRequest) => {
    await ask(bulkContract.change, { params, body });
    // It may have ended before it is looked at for the first time.
    if (body.kind !== "cancel") going.current.add(body.id);
    await client.invalidateQueries({ queryKey: keyOf(bulkContract.jobs, { params }) });
  };
  /** Waits until a job has ended, for a page that shows what comes of it. */
  const whenEnded = async (id: string): Promise<void> => {
    for (let looks = 0; looks < MOST_LOOKS; looks++) {
      const { jobs: known } = await ask(bulkContract.jobs, { params });
      if (!known.some((job) => job.id === id && isGoingOn(job))) return;
      await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
    }
  };
  const undo = async (of: string) => {
    try {
      await send({ kind: "undo", id: newId(), of });
    } catch (error) {
      tellProblem(error);
    }
  };
  useEffect(() => {
    for (const job of jobs) {
      if (isGoingOn(job)) going.current.add(job.id);
      else if (going.current.delete(job.id))
        tellDone(endWords(job), job.done > 0 && !job.undoes ? () => undo(job.id) : undefined);
    }
  });
  return {
    jobs,
    start: (items: BulkItems, act: BulkAct) => send({ kind: "start", id: newId(), items, act }),
    /**
     * Does it to its end and tells nothing: whoever asks for it does, with a way back of their own.
     * @returns the job's id, by which it can be taken back
     */
    carryOut: async (items: BulkItems, act: BulkAct): Promise<string> => {
      const id = newId();
      await ask(bulkContract.change, { params, body: { kind: "start", id, items, act } });
      await whenEnded(id);
      return id;
    },
    cancel: (id: string) => send({ kind: "cancel", id }).catch(tellProblem),
    undo,
  };
}

export type Bulk = ReturnType<typeof useBulk>;
