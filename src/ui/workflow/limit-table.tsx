"use client";
import { Select } from "@/ui/kit/select";
import { TextInput } from "@/ui/kit/field";
import { useState } from "react";
import { limitTone } from "@/ui/board/limit-tone";
import { limitState, limitWords, type ColumnLimit } from "@/core/board/limit";
import type { StateId } from "@/core/workflow/state";

/** What the limits of a board are on: a column, or one of several states that it shows. */
export interface LimitedRow {
  columnId: string;
  /** Of a row for one of several states. */
  stateId?: StateId;
  name: string;
  limit: ColumnLimit;
  count: number;
}

/** The limits of a board, a row each, each stored as it is changed. */
export function LimitTable({
  rows,
  mayEdit,
  onEdit,
}: {
  rows: readonly LimitedRow[];
  mayEdit: boolean;
  onEdit: (row: LimitedRow, limit: ColumnLimit) => Promise<boolean>;
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
        {rows.map((row) => (
          <Row
            key={row.stateId ?? row.columnId}
            row={row}
            mayEdit={mayEdit}
            onEdit={(change) => onEdit(row, { ...row.limit, ...change })}
          />
        ))}
      </tbody>
    </table>
  );
}

function Row({
  row: { name, stateId, limit, count },
  mayEdit,
  onEdit,
}: {
  row: LimitedRow;
  mayEdit: boolean;
  onEdit: (change: Partial<ColumnLimit>) => Promise<boolean>;
}) {
  const state = limitState(count, limit);
  return (
    <tr className="border-t border-line" data-column={name}>
      <td className={stateId ? "py-1.5 pl-4 text-ink-soft" : "py-2 font-semibold"}>{name}</td>
      <td>
        <Limit
          label={`Minimum of ${name}`}
          value={limit.min}
          firm={limit.minFirm}
          mayEdit={mayEdit}
          onStore={(min, minFirm) => onEdit({ min, minFirm })}
        />
      </td>
      <td>
        <Limit
          label={`Maximum of ${name}`}
          value={limit.max}
          firm={limit.maxFirm}
          mayEdit={mayEdit}
          onStore={(max, maxFirm) => onEdit({ max, maxFirm })}
        />
      </td>
      <td className={limitTone(state)}>{limitWords(state, limit)}</td>
    </tr>
  );
}

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
      {/* Without a number there is nothing to be firm about. */}
      {value !== null && (
        <span className="w-24">
          <Select
            plain
            label={`${label} is`}
            disabled={!mayEdit}
            value={firm ? "firm" : "advice"}
            options={[
              { value: "advice", label: "advice" },
              { value: "firm", label: "firm" },
            ]}
            onChange={(next) => void onStore(value, next === "firm")}
          />
        </span>
      )}
    </span>
  );
}
