"use client";
import { Plus } from "lucide-react";
import { useRef } from "react";
import { Button } from "./button";
import { Menu, MenuItem } from "./menu";
import type { Option } from "./select";

/** Adds one of several kinds of thing. */
export function AddMenu<V extends string>({
  label,
  options,
  onAdd,
  takesFocus = false,
}: {
  label: string;
  options: readonly Option<V>[];
  onAdd: (value: V) => void;
  /** What is added takes the focus: it comes when the menu has gone and holds the focus no more. */
  takesFocus?: boolean;
}) {
  const chosen = useRef<V | null>(null);
  return (
    <Menu
      onCloseFocus={(event) => {
        if (chosen.current === null) return;
        event.preventDefault();
        onAdd(chosen.current);
        chosen.current = null;
      }}
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
          onSelect={() => {
            if (takesFocus) chosen.current = option.value;
            else onAdd(option.value);
          }}
        >
          {option.label}
        </MenuItem>
      ))}
    </Menu>
  );
}
