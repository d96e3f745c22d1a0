"use client";
import type { ReactNode } from "react";
import { Popover } from "./popover";

/** A box beside something on the page; Radix places it where there is room. */
export function Beside({
  at,
  label,
  onTakeFocus,
  onClose,
  children,
}: {
  /** A selector that finds it. */
  at: string;
  label: string;
  onTakeFocus?: (event: Event) => void;
  onClose: () => void;
  children: ReactNode;
}) {
  const virtual = {
    current: {
      getBoundingClientRect: () =>
        (document.querySelector(at) ?? document.body).getBoundingClientRect(),
    },
  };
  return (
    <Popover
      open
      onOpenChange={(open) => !open && onClose()}
      anchor={virtual}
      label={label}
      side="right"
      className="max-h-[80vh] w-[320px] overflow-y-auto"
      onTakeFocus={onTakeFocus}
      onReturnFocus={(event) => {
        event.preventDefault();
        document.querySelector<HTMLElement>(at)?.focus();
      }}
    >
      {children}
    </Popover>
  );
}
