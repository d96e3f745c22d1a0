"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { shipContract } from "@/core/ship/contract";
import type { ReviewQueue, ReviewRow } from "@/core/ship/review-queue";
import { sendCommand, undoCommand } from "@/ui/item/send-command";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { queryOf } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

/** What waits for a review, kept in step; who is to read it can be said, and taken back. */
export function useReviews(initial: ReviewQueue) {
  const client = useQueryClient();
  const query = queryOf(shipContract.reviews, { params: { key: initial.project.key } });
  const { data: view } = useQuery({ ...query, initialData: initial });
  const readAgain = () => client.invalidateQueries({ queryKey: query.queryKey });
  useReadAgain((message) => ["item", "code", "design", "resync"].includes(message.kind), readAgain);
  /** Asks somebody to review an item, or nobody any more. */
  const askReviewer = async (
    { id, key, version }: ReviewRow,
    reviewer: { id: string; name: string } | null,
  ) => {
    try {
      const changes = { reviewerId: reviewer?.id ?? null };
      const { commandId } = await sendCommand(id, { kind: "edit", seenVersion: version, changes });
      await readAgain();
      tellDone(
        reviewer ? `${reviewer.name} reviews ${key}.` : `Nobody reviews ${key} now.`,
        async () => {
          await undoCommand(id, commandId);
          await readAgain();
        },
      );
    } catch (error) {
      tellProblem(error);
      await readAgain();
    }
  };
  return { view, askReviewer };
}

export type ReviewsHandle = ReturnType<typeof useReviews>;
