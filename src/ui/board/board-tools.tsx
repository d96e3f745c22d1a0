"use client";
import type { ReactNode, RefObject } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { NewItem } from "@/ui/item/new-item";
import { Button } from "@/ui/kit/button";
import { BoardSwitch } from "./board-switch";
import type { BoardFilter } from "./filter";
import { FilterLine } from "./filter-line";
import { InNoColumn } from "./in-no-column";
import type { BoardParts } from "./use-board-parts";

/** What the bay beside a board is called; only boards of the process and free ones have one. */
export function bayTitle({ columnsBy }: BoardView["board"]): string | null {
  return columnsBy === "state" ? "Backlog" : columnsBy === "free" ? "Not placed yet" : null;
}

/** A part of the screen that opens and closes. */
interface Opened {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** Above the board: which one, what it shows, and what can be brought to it. */
export function BoardTools({
  view,
  parts,
  filter,
  textField,
  onFilter,
  bay,
  creating,
  onCreated,
}: {
  view: BoardView;
  parts: BoardParts;
  filter: BoardFilter;
  textField: RefObject<HTMLInputElement | null>;
  onFilter: (filter: BoardFilter) => void;
  bay: Opened;
  creating: Opened;
  onCreated: (card: Card) => void;
}) {
  const title = bayTitle(view.board);
  const rest = view.finishedRest.reduce((sum, r) => sum + r.items, 0);
  return (
    <Bar>
      <BoardSwitch view={view} />
      <FilterLine
        filter={filter}
        types={view.types.filter((t) => t.level >= 1)}
        people={view.people}
        shown={parts.shown.length}
        total={parts.onBoard.length + rest}
        textField={textField}
        onChange={onFilter}
      />
      <span className="flex-1" />
      <InNoColumn
        astray={parts.astray}
        projectKey={view.project.key}
        mayDesign={view.rights.design}
      />
      {title && (
        <Button aria-pressed={bay.open} onClick={() => bay.onOpenChange(!bay.open)}>
          {title} <span className="text-ink-soft">{parts.backlog.length}</span>
        </Button>
      )}
      {view.rights.edit && (
        <NewItem
          projectKey={view.project.key}
          types={view.types}
          ownFields={view.ownFields}
          people={view.people}
          open={creating.open}
          onOpenChange={creating.onOpenChange}
          onCreated={onCreated}
        />
      )}
    </Bar>
  );
}

const Bar = ({ children }: { children: ReactNode }) => (
  <div className="flex shrink-0 items-center gap-4 px-4 py-2.5">{children}</div>
);
