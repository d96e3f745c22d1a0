"use client";
import { useState } from "react";
import type { DesignView } from "@/core/workflow/design-view";
import { Select } from "@/ui/kit/select";
import { AddLimit } from "./add-limit";
import { DefaultSize } from "./default-size";
import { LimitHistory } from "./limit-history";
import { limitRows } from "./limit-rows";
import { LimitTable } from "./limit-table";
import { PersonLimits } from "./person-limits";
import type { DesignRequest } from "./use-design-request";
import { useLimitEdit } from "./use-limit-edit";

/** The limits of a project: of its boards, and of its people. In force at once. */
export function LimitsSection({ view, send }: { view: DesignView; send: DesignRequest }) {
  const boards = view.boards.filter((b) => b.columnsBy === "state");
  const [chosen, setChosen] = useState(boards[0]?.id ?? "");
  const board = boards.find((b) => b.id === chosen) ?? boards[0];
  const edit = useLimitEdit(view.project.key);
  if (!board) return null;
  return (
    <section aria-label="Limits" className="flex flex-col gap-5">
      <div>
        <h2 className="flex items-baseline gap-2 text-[15px]">
          Limits
          {boards.length > 1 && (
            <span className="text-[13px] font-normal">
              of{" "}
              <Select
                words
                label="Board whose limits are shown"
                value={board.id}
                options={boards.map(({ id, name }) => ({ value: id, label: name }))}
                onChange={setChosen}
              />
            </span>
          )}
        </h2>
        <p className="mb-2 max-w-[820px] text-[12.5px] text-ink-soft">
          In force at once, the same for everybody. Advice is shown on the board, and going beyond
          it is kept; a firm limit refuses whatever would exceed it, unless a lead gives a reason. A
          state has one limit: a column that shows one state alone shows that, and it stands at the
          state in Process too. Expedite items go past limits where the board has an allowance for
          them.
        </p>
        <LimitTable
          rows={limitRows(view, board)}
          types={view.types}
          mayEdit={view.mayEdit}
          onEdit={(row, change) => edit.limit(board, row, change)}
        />
        {view.mayEdit && <AddLimit view={view} board={board} onAdd={edit.limit} />}
        <DefaultSize view={view} send={send} />
      </div>
      <PersonLimits view={view} onEdit={edit.person} />
      <LimitHistory view={view} />
    </section>
  );
}
