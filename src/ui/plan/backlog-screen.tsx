"use client";
import {
  PointerSensor,
  closestCenter,
  pointerWithin,
  useSensor,
  useSensors,
  type CollisionDetection,
} from "@dnd-kit/core";
import { useCallback, useState } from "react";
import type { Condition } from "@/core/condition/condition";
import type { Card } from "@/core/board/card";
import { counted } from "@/core/formats/counted";
import type { BacklogView } from "@/core/plan/backlog-view";
import type { ReachView } from "@/core/plan/reach-view";
import { BulkBar } from "@/ui/bulk/bulk-bar";
import { useMoves, type OnTheWay } from "@/ui/board/use-moves";
import { Dragging } from "@/ui/kit/dragging";
import { Note } from "@/ui/kit/note";
import { usePanel } from "@/ui/kit/panel-context";
import { BacklogCounts } from "./backlog-counts";
import { BacklogHead } from "./backlog-head";
import { BacklogList } from "./backlog-list";
import { TimeboxPanel } from "./timebox-panel";
import { useBacklog, type SectionRows } from "./use-backlog";
import { useBacklogChosen } from "./use-backlog-chosen";
import { useBacklogFilter } from "./use-backlog-filter";
import { useBacklogLook } from "./use-backlog-look";
import { useBacklogOrder } from "./use-backlog-order";
import { useReach } from "./use-reach";

/** A pointer must travel this far before a click becomes a drag. */
const DRAG_FROM_PX = 4;

/** The ranked backlog: what is pulled next, in order. */
export function BacklogScreen({
  initial,
  firstRows,
  firstReach,
  firstFilter,
}: {
  initial: BacklogView;
  firstRows: SectionRows;
  firstReach: ReachView;
  /** What it is narrowed to at first. */
  firstFilter: Condition | undefined;
}) {
  const looked = useBacklogLook(initial.project.key, initial.look);
  const backlog = useBacklog(initial, firstRows, useBacklogFilter(firstFilter), looked);
  const { view, rows, putCard } = backlog;
  const [moving] = useState(() => new Map<string, OnTheWay>());
  const moves = useMoves(view, putCard, moving);
  const { openItem, itemKey } = usePanel();
  const open = useCallback((card: Card) => openItem(card.key), [openItem]);
  const reach = useReach(view, backlog, firstReach);
  const { pieces } = reach.data;
  const chosen = useBacklogChosen(rows);
  const order = useBacklogOrder(backlog, {
    moves,
    pieces,
    follows: itemKey !== null,
    onOpen: open,
    onChoose: (card) => chosen.turn(card),
  });
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAG_FROM_PX } }),
  );
  const { stopped } = moves;
  return (
    <div className="relative flex h-full flex-col">
      <BacklogHead backlog={backlog} reach={reach} />
      {stopped && (
        <Note kind="problem">
          <b>{stopped.problem.sentence}</b> {stopped.problem.help}
        </Note>
      )}
      <Dragging
        id="backlog-order"
        sensors={sensors}
        collisionDetection={underPointer}
        onDragEnd={(event) => void order.drop(event)}
      >
        <div className="flex min-h-0 flex-1">
          <BacklogCounts backlog={backlog} />
          <BacklogList
            backlog={backlog}
            reach={reach}
            moves={moves}
            order={order}
            chosen={chosen}
            onOpen={open}
          />
          <TimeboxPanel view={view} reach={reach.data} onChanged={() => void backlog.readAgain()} />
        </div>
      </Dragging>
      <BulkBar
        handle={{
          projectKey: view.project.key,
          views: { rights: view.rights, vocabulary: view.vocabulary },
        }}
        count={chosen.cards.length}
        sum={sumWords(chosen.cards)}
        items={{ ids: chosen.cards.map(({ id }) => id) }}
        onDrop={chosen.drop}
      />
      <p className="shrink-0 border-t border-line px-4 py-1 text-[12.5px] text-ink-soft">
        <kbd>↑</kbd> <kbd>↓</kbd> choose · <kbd>→</kbd> its fields · <kbd>Alt ↑</kbd>{" "}
        <kbd>Alt ↓</kbd> change the order · <kbd>Alt Home</kbd> to the top · <kbd>]</kbd> pull ·{" "}
        <kbd>x</kbd> choose with others · <kbd>Enter</kbd> open
      </p>
    </div>
  );
}

/** How large what is chosen is, in words; nothing where nothing has a size. */
function sumWords(cards: readonly Card[]): string | null {
  const points = cards.reduce((sum, { estimate }) => sum + (estimate ?? 0), 0);
  const unsized = cards.filter(({ estimate }) => estimate === null).length;
  if (cards.length === 0) return null;
  return `${counted(points, "point")}${unsized > 0 ? `, no size on ${unsized}` : ""}`;
}

/** What the pointer is over, else the row that is nearest. */
const underPointer: CollisionDetection = (asked) => {
  const under = pointerWithin(asked);
  return under.length > 0 ? under : closestCenter(asked);
};
