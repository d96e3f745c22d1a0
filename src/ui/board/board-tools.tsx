"use client";
import type { RefObject } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { CHILDREN_SHOWN } from "@/core/board/children";
import type { Column } from "@/core/board/column";
import { counted } from "@/core/formats/counted";
import { NewItem } from "@/ui/item/new-item";
import { Button, ButtonLink, TextButton } from "@/ui/kit/button";
import { Select, wordOptions } from "@/ui/kit/select";
import { AddingUp } from "@/ui/view/adding-up";
import { LookHead } from "@/ui/view/look-head";
import type { LookHandle } from "@/ui/view/use-look";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { NewTimebox } from "@/ui/plan/new-timebox";
import { AloneButton } from "./alone-button";
import { CardsChooser } from "./cards-chooser";
import { LanesChooser } from "./lanes-chooser";
import { InNoColumn } from "./in-no-column";
import { SprintsButton } from "./sprints-beside";
import { unseenIn } from "./use-board-limits";
import type { FoldsHandle } from "./use-folds";
import type { BoardParts } from "./use-board-parts";

/** What the bay beside a board is called; only boards of the process and free ones have one. */
export function bayTitle({ columnsBy }: BoardView["board"]): string | null {
  return columnsBy === "state" ? "Backlog" : columnsBy === "free" ? "Not placed yet" : null;
}

/** Whether a board is one that is gone through together: of the process of one project. */
export const isWalked = ({ board, membersOf }: BoardView): boolean =>
  board.columnsBy === "state" && membersOf === null;

/** Where a board is gone through together. */
export const walkPath = ({ project, board }: BoardView): string =>
  `/p/${project.key}/flow/walk?board=${encodeURIComponent(board.id)}`;

/** A part of the screen that opens and closes. */
interface Opened {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** Above the board: which one, what it shows, and what can be brought to it. */
export function BoardTools({
  view,
  parts,
  handle,
  textField,
  bay,
  creating,
  onCreated,
  folds: { folds, showColumns, withAside, turnAside },
}: {
  view: BoardView;
  parts: BoardParts;
  handle: LookHandle;
  textField: RefObject<HTMLInputElement | null>;
  bay: Opened;
  creating: Opened;
  onCreated: (card: Card) => void;
  folds: FoldsHandle;
}) {
  const title = bayTitle(view.board);
  const { columns, counts } = parts;
  const seenIn = (column: Column) => counts[column.id] - unseenIn(view, column);
  const hidden = columns.filter(({ id }) => folds.hidden.includes(id)).length;
  const aside = columns.filter((column) => column.aside).length;
  const { columnsBy } = view.board;
  const total = columns.reduce((sum, column) => sum + seenIn(column), 0);
  return (
    <LookHead
      handle={handle}
      shown={parts.narrowed ? parts.shown.length : total}
      total={total}
      busy={parts.waiting}
      filterField={textField}
      words={<BoardWords handle={handle} parts={parts} />}
    >
      <InNoColumn
        astray={parts.astray}
        projectKey={view.project.key}
        mayDesign={view.rights.design}
      />
      {hidden > 0 && (
        <TextButton className="text-[13px] whitespace-nowrap" onClick={showColumns}>
          {counted(hidden, "column")} hidden, show
        </TextButton>
      )}
      {aside > 0 && (
        <TextButton className="text-[13px] whitespace-nowrap" onClick={turnAside}>
          {withAside ? `without ${aside} that nothing is in` : `${aside} more that nothing is in`}
        </TextButton>
      )}
      {(columnsBy === "sprint" || columnsBy === "release") && view.rights.add && (
        <NewTimebox
          projectKey={view.project.key}
          kind={columnsBy}
          sprints={view.sprints}
          today={isoDate(dayNumber(view.now, view.project.zone))}
        />
      )}
      {isWalked(view) && (
        <ButtonLink
          href={walkPath(view)}
          aria-keyshortcuts="w"
          title="Go through the board together"
        >
          Walk <kbd>w</kbd>
        </ButtonLink>
      )}
      <AloneButton />
      <SprintsButton view={view} />
      {title && (
        <Button aria-pressed={bay.open} onClick={() => bay.onOpenChange(!bay.open)}>
          {title} <span className="text-ink-soft">{parts.backlog.length}</span>
        </Button>
      )}
      {view.rights.add && (
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
    </LookHead>
  );
}

/** How the board is cut into lanes, what it adds up and how it shows children, in a sentence. */
function BoardWords({
  handle,
  parts: { childrenShown },
}: {
  handle: LookHandle;
  parts: BoardParts;
}) {
  const { change } = handle;
  return (
    <>
      <LanesChooser handle={handle} />
      <CardsChooser handle={handle} />
      <AddingUp handle={handle} />
      <span>with children</span>
      <Select
        label="Children"
        words
        value={childrenShown}
        options={wordOptions(CHILDREN_SHOWN)}
        onChange={(children) => change({ children })}
      />
    </>
  );
}
