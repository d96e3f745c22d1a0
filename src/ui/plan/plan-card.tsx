"use client";
import { useDroppable } from "@dnd-kit/core";
import type { ReactNode } from "react";
import { TextButton } from "@/ui/kit/button";

/** What rows of the backlog are dropped onto: a sprint, a release, a large piece, somebody. */
export type DropKind = "sprint" | "release" | "piece" | "person";
export const dropId = (kind: DropKind, id: string): string => `${kind}:${id}`;

/** A sprint, a release or a large piece with how far it is; rows of the backlog are dropped onto it. */
export function PlanCard({
  kind,
  id,
  name,
  aside,
  done,
  of,
  now = false,
  onChange,
  onOpen,
  children,
}: {
  kind: DropKind;
  id: string;
  name: string;
  aside: ReactNode;
  /** How much is done, of how much. */
  done: number;
  of: number;
  /** Whether it is the one that runs. */
  now?: boolean;
  onChange?: () => void;
  onOpen?: () => void;
  children: ReactNode;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: dropId(kind, id) });
  return (
    <li
      ref={setNodeRef}
      className="plan-card"
      data-over={isOver || undefined}
      data-now={now || undefined}
      {...{ [`data-${kind}`]: name }}
    >
      <p className="flex items-baseline gap-2">
        {onOpen ? (
          <button
            type="button"
            className="min-w-0 flex-1 truncate text-left font-semibold hover:underline"
            onClick={onOpen}
          >
            {name}
          </button>
        ) : (
          <b className="min-w-0 flex-1 truncate">{name}</b>
        )}
        <span className="shrink-0 text-[12.5px] text-ink-soft">{aside}</span>
        {onChange && (
          <TextButton className="text-[12.5px]" aria-label={`Change ${name}`} onClick={onChange}>
            change
          </TextButton>
        )}
      </p>
      <span className="plan-bar" aria-hidden="true">
        <span style={{ width: `${of === 0 ? 0 : (100 * done) / of}%` }} />
      </span>
      {children}
    </li>
  );
}
