"use client";
import { useEffect, useRef, type ReactNode } from "react";

/** One report in a list of the desk; the list follows the one that is open. */
export function DeskRow({
  reference,
  title,
  stands,
  open,
  chosen = false,
  onOpen,
  beside,
  children,
}: {
  reference: string;
  title: string;
  /** How long it waits, or what became of it. */
  stands: ReactNode;
  open: boolean;
  chosen?: boolean;
  onOpen: () => void;
  /** What acts on it without opening it. */
  beside?: ReactNode;
  children?: ReactNode;
}) {
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (open) row.current?.scrollIntoView({ block: "nearest" });
  }, [open]);
  return (
    <li
      ref={row}
      className={`group relative border-b border-line ${open ? "bg-accent-soft shadow-[inset_3px_0_0_var(--accent)]" : chosen ? "bg-sheet" : "hover:bg-sheet"}`}
    >
      {beside}
      <button
        type="button"
        aria-current={open ? "true" : undefined}
        data-reference={reference}
        onClick={onOpen}
        className="block w-full px-4 py-2 text-left"
      >
        <span className="flex items-baseline justify-between gap-2">
          <span className="key">{reference}</span>
          {stands}
        </span>
        <span className="line-clamp-2 font-medium leading-snug">{title}</span>
        {children}
      </button>
    </li>
  );
}
