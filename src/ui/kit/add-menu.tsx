"use client";
import { Plus } from "lucide-react";
import { Button } from "./button";
import { Menu, MenuItem } from "./menu";
import type { Option } from "./select";

/** Adds one of several kinds of thing. */
export function AddMenu<V extends string>({
  label,
  options,
  onAdd,
}: {
  label: string;
  options: readonly Option<V>[];
  onAdd: (value: V) => void;
}) {
  return (
    <Menu
      trigger={
        <Button look="quiet" small className="text-accent" aria-label={label}>
          <Plus size={14} aria-hidden="true" />
          {label}
        </Button>
      }
    >
      {options.map((option) => (
        <MenuItem
          key={option.value}
          disabled={option.disabled}
          onSelect={() => onAdd(option.value)}
        >
          {option.label}
        </MenuItem>
      ))}
    </Menu>
  );
}
