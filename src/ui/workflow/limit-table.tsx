"use client";
import { Select } from "@/ui/kit/select";
import { TextInput } from "@/ui/kit/field";
import { useState } from "react";
import { columnWords, type Column } from "@/core/board/column";
import { limitState, limitWords } from "@/core/board/limit";

export type LimitEdit = Pick<Column, "min" | "max" | "minFirm" | "maxFirm">;

/** The limits of a board's columns, each stored as it is changed. */
export function LimitTable({
  columns,
  counts,
  mayEdit,
  onEdit,
}: {
  columns: Column[];
  counts: Record<string, number>;
  mayEdit: boolean;
  onEdit: (column: Column, edit: LimitEdit) => Promise<boolean>;
}) {
  return (
    <table className="w-full text-[13.5px]">
      <thead>
        <tr className="text-left text-[12.5px] text-ink-soft">
          <th className="font-normal">Column</th>
          <th className="font-normal">Minimum</th>
          <th className="font-normal">Maximum</th>
          <th className="font-normal">Now</th>
        </tr>
      </thead>
      <tbody>
        {columns
          .filter((c) => c.part !== "finished")
          .map((column) => {
            const count = column.stateIds.reduce((sum, id) => sum + (counts[id] ?? 0), 0);
            const state = limitState(count, column);
            return (
              <tr
                key={column.id}
                className="border-t border-line"
                data-column={columnWords(column)}
              >
                <td className="py-1 font-semibold">{columnWords(column)}</td>
                <td>
                  <Limit
                    label={`Minimum of ${columnWords(column)}`}
                    value={column.min}
                    firm={column.minFirm}
                    mayEdit={mayEdit}
                    onStore={(min, minFirm) => onEdit(column, { ...pick(column), min, minFirm })}
                  />
                </td>
                <td>
                  <Limit
                    label={`Maximum of ${columnWords(column)}`}
                    value={column.max}
                    firm={column.maxFirm}
                    mayEdit={mayEdit}
                    onStore={(max, maxFirm) => onEdit(column, { ...pick(column), max, maxFirm })}
                  />
                </td>
                <td
                  className={
                    state.kind === "over"
                      ? "font-semibold text-alarm"
                      : state.kind === "under"
                        ? "font-semibold text-signal-ink"
                        : "text-ink-soft"
                  }
                >
                  {limitWords(state, column)}
                </td>
              </tr>
            );
          })}
      </tbody>
    </table>
  );
}

const pick = ({ min, max, minFirm, maxFirm }: Column): LimitEdit => ({
  min,
  max,
  minFirm,
  maxFirm,
});

function Limit({
  label,
  value,
  firm,
  mayEdit,
  onStore,
}: {
  label: string;
  value: number | null;
  firm: boolean;
  mayEdit: boolean;
  onStore: (value: number | null, firm: boolean) => Promise<boolean>;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const store = async () => {
    if (draft === null) return;
    const next = draft.trim() === "" ? null : Number(draft);
    if (next !== value && !(await onStore(next, firm))) return;
    setDraft(null);
  };
  return (
    <span className="flex items-center gap-1.5">
      <TextInput
        className="!w-16"
        type="number"
        min={0}
        step={1}
        aria-label={label}
        placeholder="–"
        disabled={!mayEdit}
        value={draft ?? value ?? ""}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={() => void store()}
        onKeyDown={(e) => {
          if (e.key === "Enter") e.currentTarget.blur();
          if (e.key === "Escape") setDraft(null);
        }}
      />
      <Select
        className="!w-auto"
        label={`${label} is`}
        disabled={!mayEdit || value === null}
        value={firm ? "firm" : "advice"}
        options={[
          { value: "advice", label: "advice" },
          { value: "firm", label: "firm" },
        ]}
        onChange={(next) => void onStore(value, next === "firm")}
      />
    </span>
  );
}
