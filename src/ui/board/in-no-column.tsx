"use client";
import { useQueryClient } from "@tanstack/react-query";
import type { Astray } from "@/core/board/astray";
import { boardContract } from "@/core/board/contract";
import { counted } from "@/core/formats/counted";
import { TextButton } from "@/ui/kit/button";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { ask } from "@/ui/kit/request";

/**
 * What the board is about and none of its columns shows: said, opened by a click, and put on by
 * another.
 */
export function InNoColumn({
  astray: { itemIds, states, workflowIds },
  projectKey,
  mayDesign,
}: {
  astray: Astray;
  projectKey: string;
  mayDesign: boolean;
}) {
  const { openBehind } = usePanel();
  const putOn = usePutOnBoard(projectKey);
  if (itemIds.length === 0) return null;
  const title = `In no column: ${states.join(", ")}`;
  return (
    <p className="flex items-baseline gap-2 border-l-[3px] border-signal pl-2 text-[13px] whitespace-nowrap text-signal-ink">
      <span title={title}>
        <b>{counted(itemIds.length, "item")}</b> in no column:
      </span>
      <TextButton onClick={() => openBehind({ title, ids: itemIds })}>show</TextButton>
      {mayDesign && workflowIds.length > 0 && (
        <TextButton onClick={() => void putOn(workflowIds)}>put on the board</TextButton>
      )}
    </p>
  );
}

/** Puts the states of workflows that no board shows onto the first board of a project. */
export function usePutOnBoard(
  projectKey: string,
): (workflowIds: readonly string[]) => Promise<void> {
  const client = useQueryClient();
  return async (workflowIds) => {
    try {
      for (const workflowId of workflowIds)
        await ask(boardContract.change, {
          params: { key: projectKey },
          body: { kind: "show workflow", workflowId },
        });
      tellDone("The board shows them now.");
    } catch (error) {
      tellProblem(error);
    } finally {
      await client.invalidateQueries();
    }
  };
}
