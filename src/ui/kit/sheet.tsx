"use client";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

/** A sheet over the page that holds the keyboard until it is closed: for what has to be read or decided now. */
export function Sheet({
  open,
  onClose,
  title,
  className = "",
  children,
}: {
  open: boolean;
  onClose: () => void;
  title: ReactNode;
  className?: string;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-50 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`popover fixed left-1/2 top-24 z-50 max-h-[calc(100dvh-8rem)] w-[420px] max-w-[calc(100vw-2rem)] -translate-x-1/2 overflow-y-auto ${className}`}
        >
          <Dialog.Title className="mb-2 text-[15px]">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
