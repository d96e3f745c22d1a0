"use client";
import type { RefObject } from "react";
import { LANE_FIELDS, type LaneField } from "@/core/board/lane";
import { isFiltered, NO_FILTER, type BoardFilter } from "./filter";

/** The filter as a sentence; each underlined part can be changed, one click clears it. */
export function FilterLine({
  filter,
  types,
  people,
  shown,
  total,
  textField,
  onChange,
}: {
  filter: BoardFilter;
  types: { id: string; name: string }[];
  people: { id: string; name: string }[];
  shown: number;
  total: number;
  textField: RefObject<HTMLInputElement | null>;
  onChange: (filter: BoardFilter) => void;
}) {
  const choice =
    "min-h-6 cursor-pointer appearance-none border-b-[1.5px] border-ink bg-transparent font-semibold text-ink [field-sizing:content] hover:bg-accent-soft";
  return (
    <div
      className="flex flex-wrap items-center gap-x-1.5 text-[13.5px] text-ink-soft"
      role="group"
      aria-label="What the board shows"
    >
      <span>showing</span>
      <select
        aria-label="Item type"
        className={choice}
        value={filter.typeId}
        onChange={(e) => onChange({ ...filter, typeId: e.target.value })}
      >
        <option value="">all types</option>
        {types.map((t) => (
          <option key={t.id} value={t.id}>
            only {t.name.toLowerCase()}
          </option>
        ))}
      </select>
      <span>of</span>
      <select
        aria-label="Assignee"
        className={choice}
        value={filter.assigneeId}
        onChange={(e) => onChange({ ...filter, assigneeId: e.target.value })}
      >
        <option value="">everybody</option>
        <option value="nobody">nobody yet</option>
        {people.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </select>
      <span>with</span>
      <input
        ref={textField}
        aria-label="Words in the title or key"
        placeholder="any words"
        className="min-h-6 w-24 border-b-[1.5px] border-ink bg-transparent px-0.5 font-semibold text-ink outline-none placeholder:font-normal placeholder:text-ink-soft focus:bg-accent-soft"
        value={filter.text}
        onChange={(e) => onChange({ ...filter, text: e.target.value })}
        onKeyDown={(e) => {
          if (e.key === "Escape") {
            e.preventDefault();
            e.stopPropagation();
            onChange({ ...filter, text: "" });
            e.currentTarget.blur();
          }
        }}
      />
      <span>in lanes by</span>
      <select
        aria-label="Lanes by"
        className={choice}
        value={filter.lanes}
        onChange={(e) => onChange({ ...filter, lanes: e.target.value as LaneField })}
      >
        {LANE_FIELDS.map((f) => (
          <option key={f} value={f}>
            {f === "none" ? "expedite first" : f}
          </option>
        ))}
      </select>
      {isFiltered(filter) && (
        <>
          <button
            type="button"
            className="link"
            onClick={() => onChange({ ...NO_FILTER, lanes: filter.lanes })}
          >
            clear
          </button>
          <span className="text-signal-ink">
            {shown} of {total} shown
          </span>
        </>
      )}
    </div>
  );
}
