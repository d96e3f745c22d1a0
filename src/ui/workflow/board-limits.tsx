"use client";
import { useQueryClient } from "@tanstack/react-query";
import { columnWords } from "@/core/board/column";
import { NO_LIMIT, type ColumnLimit } from "@/core/board/limit";
import { boardContract } from "@/core/board/contract";
import { workflowContract } from "@/core/workflow/contract";
import type { DesignView } from "@/core/workflow/design-view";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf } from "@/ui/kit/request";
import { LimitTable, type LimitedRow } from "./limit-table";

/** Limits of the board's columns, in force at once. */
export function BoardLimits({ view }: { view: DesignView }) {
  const client = useQueryClient();
  const { key } = view.project;
  const editLimit = async (
    { columnId, stateId }: LimitedRow,
    { min, max, minFirm, maxFirm }: ColumnLimit,
  ): Promise<boolean> => {
    try {
      await ask(boardContract.limit, {
        params: { key },
        body: { columnId, stateId, seenVersion: view.board.version, min, max, minFirm, maxFirm },
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
        a firm limit refuses the move unless a lead gives a reason. A state has one limit: a column
        that shows one state alone shows that, and it stands at the state in Process too.
      </p>
      <LimitTable rows={limitedRows(view)} mayEdit={view.mayEdit} onEdit={editLimit} />
    </section>
  );
}

/** The columns in progress, and below one of several states each of those. */
function limitedRows({ columns, counts, around }: DesignView): LimitedRow[] {
  const nameOf = (id: string) => around.vocabulary.states.find((s) => s.id === id)?.name ?? id;
  return columns
    .filter((c) => c.part !== "finished")
    .flatMap((column): LimitedRow[] => {
      const { id: columnId, stateIds, stateLimits } = column;
      const count = stateIds.reduce((sum, id) => sum + (counts[id] ?? 0), 0);
      const states = stateIds.length > 1 ? stateIds : [];
      return [
        { columnId, name: columnWords(column), limit: column, count },
        ...states.map((stateId) => ({
          columnId,
          stateId,
          name: nameOf(stateId),
          limit: stateLimits[stateId] ?? NO_LIMIT,
          count: counts[stateId] ?? 0,
        })),
      ];
    });
}
