"use client";
import { TextButton } from "@/ui/kit/button";
import { TextInput } from "@/ui/kit/field";
import { Select, namedOptions } from "@/ui/kit/select";
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
  return (
    <div
      className="flex flex-wrap items-center gap-x-1.5 text-[13.5px] text-ink-soft"
      role="group"
      aria-label="What the board shows"
    >
      <span>showing</span>
      <Select
        label="Item type"
        words
        value={filter.typeId}
        options={[
          { value: "", label: "all types" },
          ...types.map((t) => ({ value: t.id, label: `only ${t.name.toLowerCase()}` })),
        ]}
        onChange={(next) => onChange({ ...filter, typeId: next })}
      />
      <span>of</span>
      <Select
        label="Assignee"
        words
        value={filter.assigneeId}
        options={[
          { value: "", label: "everybody" },
          { value: "nobody", label: "nobody yet" },
          ...namedOptions(people),
        ]}
        onChange={(next) => onChange({ ...filter, assigneeId: next })}
      />
      <span>with</span>
      <TextInput
        words
        ref={textField}
        aria-label="Words in the title or key"
        placeholder="any words"
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
      <Select
        label="Lanes by"
        words
        value={filter.lanes}
        options={LANE_FIELDS.map((f) => ({ value: f, label: f === "none" ? "expedite first" : f }))}
        onChange={(next) => onChange({ ...filter, lanes: next as LaneField })}
      />
      {isFiltered(filter) && (
        <>
          <TextButton onClick={() => onChange({ ...NO_FILTER, lanes: filter.lanes })}>
            clear
          </TextButton>
          <span className="text-signal-ink">
            {shown} of {total} shown
          </span>
        </>
      )}
    </div>
  );
}
