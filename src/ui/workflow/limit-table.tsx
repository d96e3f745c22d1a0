"use client";
import { heldWords, limitTitle } from "@/core/board/board-limits";
import { NO_LIMIT, type ColumnLimit } from "@/core/board/limit";
import { PLAIN_COUNTING, type LimitCounting } from "@/core/board/limit-counting";
import type { ItemType } from "@/core/item/item-type";
import { limitTone } from "@/ui/board/limit-tone";
import { FixedDatesChoice, LevelChoice, levelsOf, UnitChoice } from "./counting-choices";
import { LimitBound } from "./limit-bound";
import type { LimitRow } from "./limit-rows";

/** What of a limit is changed. */
export type LimitChange = Partial<ColumnLimit & LimitCounting>;

/** The limits of a board, a row each, each stored as it is changed. */
export function LimitTable({
  rows,
  types,
  mayEdit,
  onEdit,
}: {
  rows: readonly LimitRow[];
  types: readonly ItemType[];
  mayEdit: boolean;
  onEdit: (row: LimitRow, change: LimitChange) => Promise<boolean>;
}) {
  return (
    <table className="w-full text-[13.5px]">
      <thead>
        <tr className="text-left text-[12.5px] text-ink-soft">
          <th className="font-normal">Where</th>
          <th className="font-normal">Minimum</th>
          <th className="font-normal">Maximum</th>
          <th className="font-normal">What counts</th>
          <th className="font-normal">Fixed dates</th>
          <th className="font-normal">Now</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <Row
            key={row.id}
            row={row}
            types={types}
            mayEdit={mayEdit}
            onEdit={(change) => onEdit(row, change)}
          />
        ))}
      </tbody>
    </table>
  );
}

function Row({
  row: { name, part, limit, holds },
  types,
  mayEdit,
  onEdit,
}: {
  row: LimitRow;
  types: readonly ItemType[];
  mayEdit: boolean;
  onEdit: (change: LimitChange) => Promise<boolean>;
}) {
  const { min, max, minFirm, maxFirm } = limit ?? NO_LIMIT;
  const { unit, fixedDatePasses } = limit ?? PLAIN_COUNTING;
  const held = limit && heldWords(limit);
  return (
    <tr className="border-t border-line" data-column={name}>
      <td className={part ? "py-1.5 pl-4 text-ink-soft" : "py-2 font-semibold"}>{name}</td>
      <td>
        <LimitBound
          label={`Minimum of ${name}`}
          value={min}
          firm={minFirm}
          mayEdit={mayEdit}
          onStore={(next, firm) => onEdit({ min: next, minFirm: firm })}
        />
      </td>
      <td>
        <LimitBound
          label={`Maximum of ${name}`}
          value={max}
          firm={maxFirm}
          mayEdit={mayEdit}
          onStore={(next, firm) => onEdit({ max: next, maxFirm: firm })}
        />
      </td>
      <td>
        {limit && (
          <span className="flex gap-1">
            <UnitChoice
              plain
              label={`What counts in ${name}`}
              className="!w-24"
              mayEdit={mayEdit}
              value={unit}
              onChange={(next) => void onEdit({ unit: next })}
            />
            {levelsOf(types).length > 1 && (
              <LevelChoice
                plain
                label={`Which items count in ${name}`}
                className="!w-44"
                types={types}
                mayEdit={mayEdit}
                value={limit.level}
                onChange={(level) => void onEdit({ level })}
              />
            )}
          </span>
        )}
      </td>
      <td>
        {limit && (
          <FixedDatesChoice
            plain
            label={`Fixed dates in ${name}`}
            className="!w-24"
            mayEdit={mayEdit}
            value={fixedDatePasses}
            onChange={(next) => void onEdit({ fixedDatePasses: next })}
          />
        )}
      </td>
      <td
        className={held ? limitTone(held.state) : "text-ink-soft"}
        title={limit ? limitTitle(limit, 1) : undefined}
      >
        {held ? held.words : holds}
      </td>
    </tr>
  );
}
