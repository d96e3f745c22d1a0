"use client";
import { Popover as Radix } from "radix-ui";
import type { ComponentProps, ReactElement, ReactNode } from "react";

interface Opened {
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
}

/** A small sheet beside what opened it; Esc or a press elsewhere closes it. */
export function Popover({
  trigger,
  anchor,
  label,
  side,
  align = "start",
  className = "",
  clearRight,
  onTakeFocus,
  onReturnFocus,
  children,
  ...opened
}: Opened & {
  /** What opens it: one element that takes a ref. */
  trigger?: ReactElement;
  /** Where it stands when nothing on the page opens it. */
  anchor?: ComponentProps<typeof Radix.Anchor>["virtualRef"];
  label: string;
  side?: ComponentProps<typeof Radix.Content>["side"];
  align?: ComponentProps<typeof Radix.Content>["align"];
  className?: string;
  /** So many pixels at the right stay free of it. */
  clearRight?: number;
  /** Says where the focus goes on opening; without it, to the first field, with its text marked. */
  onTakeFocus?: (event: Event) => void;
  /** Says where the focus goes after closing; without it, back to the trigger. */
  onReturnFocus?: (event: Event) => void;
  children: ReactNode;
}) {
  return (
    <Radix.Root {...opened}>
      {trigger && <Radix.Trigger asChild>{trigger}</Radix.Trigger>}
      {anchor && <Radix.Anchor virtualRef={anchor} />}
      <Radix.Portal>
        <Radix.Content
          side={side}
          align={align}
          sideOffset={6}
          // Also away from what opened it.
          sticky={clearRight === undefined ? "partial" : "always"}
          collisionPadding={{ top: 8, left: 8, bottom: 8, right: clearRight ?? 8 }}
          aria-label={label}
          onOpenAutoFocus={onTakeFocus}
          onCloseAutoFocus={onReturnFocus}
          className={`popover ${className}`}
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
