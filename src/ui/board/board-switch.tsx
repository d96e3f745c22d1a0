"use client";
import Link from "next/link";
import { ChevronDown } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import type { BoardView } from "@/core/board/board-view";

/** Which board is looked at, and the way to the others. */
export function BoardSwitch({ view }: { view: BoardView }) {
  const [open, setOpen] = useState(false);
  const { project, board, boards, rights } = view;
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <h1 className="text-[18px]">
        <Popover.Trigger
          className="inline-flex items-center gap-1.5 whitespace-nowrap rounded-[3px] hover:text-accent"
          aria-label={`Board ${board.name}, choose another`}
        >
          {board.name} <ChevronDown size={15} aria-hidden="true" />
        </Popover.Trigger>
      </h1>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          className="popover w-[280px]"
          aria-label="Boards"
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
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
