"use client";
import type { LimitCounting } from "@/core/board/limit-counting";
import type { ItemType } from "@/core/item/item-type";
import { Select } from "@/ui/kit/select";

/** How one side of what a limit counts is chosen, in a row of a table or under a label. */
interface Choice<V> {
  /** What it is called where no label stands around it. */
  label?: string;
  plain?: boolean;
  className?: string;
  value: V;
  mayEdit: boolean;
  onChange: (value: V) => void;
}

/** Whether items count, or what their sizes come to. */
export const UnitChoice = ({ mayEdit, ...choice }: Choice<LimitCounting["unit"]>) => (
  <Select
    {...choice}
    disabled={!mayEdit}
    options={[
      { value: "items", label: "items" },
      { value: "size", label: "their size" },
    ]}
  />
);

/** Whether items with a fixed date go beyond a limit. */
export const FixedDatesChoice = ({ mayEdit, value, onChange, ...choice }: Choice<boolean>) => (
  <Select
    {...choice}
    disabled={!mayEdit}
    value={value ? "pass" : "kept"}
    options={[
      { value: "kept", label: "are kept" },
      { value: "pass", label: "may pass" },
    ]}
    onChange={(next) => onChange(next === "pass")}
  />
);

/** The levels of a project's types, the smallest pieces first. */
export const levelsOf = (types: readonly Pick<ItemType, "level">[]): number[] =>
  [...new Set(types.map((t) => t.level))].sort((a, b) => a - b);

/** Of which level items count, by the types that have it. */
export const LevelChoice = ({
  types,
  mayEdit,
  value,
  onChange,
  ...choice
}: Choice<number> & { types: readonly Pick<ItemType, "level" | "name">[] }) => (
  <Select
    {...choice}
    disabled={!mayEdit}
    value={String(value)}
    options={levelsOf(types).map((level) => ({
      value: String(level),
      label: types
        .filter((t) => t.level === level)
        .map((t) => t.name.toLowerCase())
        .join(", "),
    }))}
    onChange={(next) => onChange(Number(next))}
  />
);
