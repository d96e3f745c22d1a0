"use client";
import Link from "next/link";
import { ChevronDown } from "lucide-react";
import { Popover } from "@/ui/kit/popover";
import { useState } from "react";
import type { BoardView } from "@/core/board/board-view";

/** Which board is looked at, and the way to the others. */
export function BoardSwitch({ view }: { view: BoardView }) {
  const [open, setOpen] = useState(false);
  const { project, board, boards, rights } = view;
  return (
    <h1 className="text-[18px]">
      <Popover
        open={open}
        onOpenChange={setOpen}
        label="Boards"
        align="start"
        className="w-[280px]"
        trigger={
          <button
            type="button"
            className="inline-flex items-center gap-1.5 whitespace-nowrap rounded-[3px] hover:text-accent"
            aria-label={`Board ${board.name}, choose another`}
          >
            {board.name} <ChevronDown size={15} aria-hidden="true" />
          </button>
        }
      >
        <ul>
          {boards.map((b) => (
            <li key={b.id}>
              <Link
                href={`/p/${project.key}/flow?board=${encodeURIComponent(b.id)}`}
                className={`menu-item ${b.id === board.id ? "font-semibold" : ""}`}
                aria-current={b.id === board.id ? "page" : undefined}
                onClick={() => setOpen(false)}
              >
                {b.name}
              </Link>
            </li>
          ))}
        </ul>
        {rights.design && (
          <Link
            href={`/p/${project.key}/design?place=boards`}
            className="link mt-1 block px-2 py-1 text-[13px]"
          >
            Change boards, or make another
          </Link>
        )}
      </Popover>
    </h1>
  );
}
