"use client";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

/** A sheet that hangs from the course bar while it is needed. */
export function TopSheet({
  title,
  className,
  onClose,
  onClosed,
  onEscape,
  children,
}: {
  title: string;
  className: string;
  onClose: () => void;
  /** It is away, and the focus is back where it was. */
  onClosed: () => void;
  /** Null where Escape closes it. */
  onEscape: (() => void) | null;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-50" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`popover ${className}`}
          onCloseAutoFocus={() => setTimeout(onClosed)}
          onEscapeKeyDown={(event) => {
            if (onEscape === null) return;
            event.preventDefault();
            onEscape();
          }}
        >
          <Dialog.Title className="sr-only">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
