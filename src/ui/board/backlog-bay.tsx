"use client";
import { counted } from "@/core/formats/counted";
import { useDroppable } from "@dnd-kit/core";
import type { ReactNode } from "react";
import { Plus } from "lucide-react";
import type { Card } from "@/core/board/card";

import type { BoardAdding } from "./use-board-adding";

const SHOWN = 60;

/** The ranked backlog beside the board: the next items to pull, best first. */
export function BacklogBay({
  title,
  cards,
  total,
  adding,
  children,
}: {
  title: string;
  cards: Card[];
  total: number;
  adding: BoardAdding;
  children: (card: Card) => ReactNode;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: "backlog" });
  return (
    <aside
      ref={setNodeRef}
      aria-label={title}
      className={`flex w-[200px] shrink-0 flex-col border-r border-line-strong ${isOver ? "bg-accent-soft" : ""}`}
    >
      <h2 className="px-3 pb-1 text-[14px]">
        {title}{" "}
        <span className="font-sans text-[12.5px] font-normal text-ink-soft">
          {title === "Backlog" && "in order, "}
          {counted(total, "item")}
        </span>
        {adding.may && <AddHere at="head" title={title} adding={adding} />}
      </h2>
      <div
        role="list"
        aria-label={`${title} in order`}
        className="flex-1 overflow-y-auto px-2 pb-2"
      >
        {adding.line(null, null, "head")}
        {cards.length === 0 && (
          <p className="px-1 text-ink-soft">
            Nothing waits here. New items and accepted reports come in at the place they are given.
          </p>
        )}
        {cards.slice(0, SHOWN).map(children)}
        {cards.length > SHOWN && (
          <p className="px-1 text-[12.5px] text-ink-soft">
            and {cards.length - SHOWN} more in Plan
          </p>
        )}
        {adding.line(null, null, "foot") ??
          (adding.may && <AddHere at="foot" title={title} adding={adding} />)}
      </div>
    </aside>
  );
}

function AddHere({
  at,
  title,
  adding,
}: {
  at: "head" | "foot";
  title: string;
  adding: BoardAdding;
}) {
  return (
    <button
      type="button"
      className={`add-here !opacity-100 ${at === "head" ? "float-right !w-6" : ""}`}
      aria-label={`Add at the ${at} of ${title}`}
      onClick={() => adding.open(null, null, at)}
    >
      <Plus size={13} aria-hidden="true" />
    </button>
  );
}
