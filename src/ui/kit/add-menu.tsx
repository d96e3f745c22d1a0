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
  /** What is added takes the focus, so it is not given back to the button. */
  takesFocus?: boolean;
}) {
  const added = useRef(false);
  return (
    <Menu
      onCloseFocus={(event) => {
        if (added.current) event.preventDefault();
        added.current = false;
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
            added.current = takesFocus;
            onAdd(option.value);
          }}
        >
          {option.label}
        </MenuItem>
      ))}
    </Menu>
  );
}
