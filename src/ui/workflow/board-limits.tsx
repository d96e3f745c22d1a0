"use client";
import { useQueryClient } from "@tanstack/react-query";
import type { Column } from "@/core/board/column";
import { boardContract } from "@/core/board/contract";
import { workflowContract } from "@/core/workflow/contract";
import type { DesignView } from "@/core/workflow/design-view";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf } from "@/ui/kit/request";
import { LimitTable, type LimitEdit } from "./limit-table";

/** Limits of the board's columns, in force at once. */
export function BoardLimits({ view }: { view: DesignView }) {
  const client = useQueryClient();
  const { key } = view.project;
  const editLimit = async (column: Column, edit: LimitEdit): Promise<boolean> => {
    try {
      await ask(boardContract.limit, {
        params: { key },
        body: { columnId: column.id, seenVersion: view.board.version, ...edit },
      });
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
  return (
    <section aria-label="Limits">
      <h2 className="text-[15px]">Limits</h2>
      <p className="mb-2 text-[12.5px] text-ink-soft">
        Limits of the board “{view.board.name}” are in force at once. Advice is shown on the board;
        a firm limit refuses the move unless a lead gives a reason.
      </p>
      <LimitTable
        columns={view.columns}
        counts={view.counts}
        mayEdit={view.mayEdit}
        onEdit={editLimit}
      />
    </section>
  );
}
