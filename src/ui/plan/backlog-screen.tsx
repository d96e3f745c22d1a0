"use client";
import {
  DndContext,
  PointerSensor,
  closestCenter,
  pointerWithin,
  useSensor,
  useSensors,
  type CollisionDetection,
} from "@dnd-kit/core";
import { Fragment, useCallback, useState } from "react";
import type { Condition } from "@/core/condition/condition";
import type { Card } from "@/core/board/card";
import { limitState, limitWords, NO_LIMIT } from "@/core/board/limit";
import { counted } from "@/core/formats/counted";
import type { BacklogRows, BacklogView } from "@/core/plan/backlog-view";
import { REACH_WEEKS, USUAL_REACH_WEEKS, type ReachView } from "@/core/plan/reach-view";
import { BulkBar } from "@/ui/bulk/bulk-bar";
import { InNoColumn } from "@/ui/board/in-no-column";
import { useMoves, type OnTheWay } from "@/ui/board/use-moves";
import { NewItem } from "@/ui/item/new-item";
import { ButtonLink, TextButton } from "@/ui/kit/button";
import { MoreRows } from "@/ui/kit/more-rows";
import { Note } from "@/ui/kit/note";
import { Select } from "@/ui/kit/select";
import { usePanel } from "@/ui/kit/panel-context";
import { BacklogFilterButton } from "./backlog-filter";
import { BacklogRow } from "./backlog-row";
import { ReachMark } from "./reach-line";
import { TimeboxPanel } from "./timebox-panel";
import { useBacklog, type Backlog } from "./use-backlog";
import { useBacklogChosen } from "./use-backlog-chosen";
import { useBacklogFilter } from "./use-backlog-filter";
import { useBacklogOrder } from "./use-backlog-order";
import { useReach, type ReachHandle } from "./use-reach";

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
  firstRows: BacklogRows;
  firstReach: ReachView;
  /** What it is narrowed to at first. */
  firstFilter: Condition | undefined;
}) {
  const backlog = useBacklog(initial, firstRows, useBacklogFilter(firstFilter));
  const { view, rows, around, more, putCard } = backlog;
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
    onOpen: open,
    onChoose: (card) => chosen.turn(card),
  });
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAG_FROM_PX } }),
  );
  const nameOf = new Map(view.people.map((p) => [p.id, p.name]));
  const { stopped } = moves;
  return (
    <div className="relative flex h-full flex-col">
      <BacklogHead backlog={backlog} reach={reach} />
      {stopped && (
        <Note kind="problem">
          <b>{stopped.problem.sentence}</b> {stopped.problem.help}
        </Note>
      )}
      <DndContext
        id="backlog-order"
        sensors={sensors}
        collisionDetection={underPointer}
        onDragEnd={order.drop}
      >
        <div className="flex min-h-0 flex-1">
          <div className="min-w-0 flex-1 overflow-y-auto px-4 py-2">
            {rows.length === 0 && backlog.filter.narrows && (
              <p className="py-10 text-center text-ink-soft">
                Nothing in the backlog is like that.{" "}
                <TextButton onClick={backlog.filter.showAll}>Show all</TextButton>
              </p>
            )}
            {rows.length === 0 && !backlog.filter.narrows && (
              <p className="py-10 text-center text-ink-soft">
                The backlog is empty. Accept a report in Intake or add an item: it gets its place
                here.
              </p>
            )}
            <ol aria-label="Backlog in order" className="@container">
              {reach.noneBy !== null && (
                <li className="reach-none">
                  Probably none of these by {reach.noneBy}: {counted(reach.data.ahead, "item")} in
                  progress go first.
                </li>
              )}
              {rows.map((card, i) => (
                <Fragment key={card.id}>
                  <BacklogRow
                    card={card}
                    around={around[card.id]}
                    position={i + 1}
                    open={card.key === itemKey}
                    movable={view.rights.move}
                    assignee={card.assigneeId && (nameOf.get(card.assigneeId) ?? "Somebody")}
                    now={view.now}
                    due={reach.dueOf(card, i)}
                    order={order}
                    menu={view.rights.edit ? { view, pieces } : null}
                    chosen={chosen.has(card.id)}
                    onChoose={view.rights.edit ? chosen.turn : null}
                    onOpen={open}
                  />
                  <ReachMark lines={reach.lines.get(i + 1) ?? []} />
                </Fragment>
              ))}
            </ol>
            {rows.length < backlog.count && (
              <MoreRows key={rows.length} rest={backlog.count - rows.length} onMore={more} />
            )}
          </div>
          <TimeboxPanel view={view} reach={reach.data} onChanged={backlog.readAgain} />
        </div>
      </DndContext>
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
        <kbd>↑</kbd> <kbd>↓</kbd> choose · <kbd>Alt ↑</kbd> <kbd>Alt ↓</kbd> change the order ·{" "}
        <kbd>]</kbd> pull · <kbd>x</kbd> choose with others · <kbd>Enter</kbd> open
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

/** From what the reach is drawn, or why none is. */
function ReachFrom({ reach: { data, weeks, setWeeks } }: { reach: ReachHandle }) {
  const { reach, past } = data;
  return (
    <span className="flex items-center gap-1 text-[13px] text-ink-soft">
      {reach === null
        ? `${counted(past.weeks, "whole week")} with ${counted(past.finished, "finished item")}: too little to say how far it reaches`
        : "reach from the last"}
      {(reach !== null || weeks !== USUAL_REACH_WEEKS) && (
        <Select
          plain
          label="From how many weeks the reach is drawn"
          className="!w-auto"
          value={String(weeks)}
          options={REACH_WEEKS.map((n) => ({ value: String(n), label: `${n} weeks` }))}
          onChange={(chosen) => setWeeks(Number(chosen))}
        />
      )}
    </span>
  );
}

/** How much waits, and whether there is room for it where it is pulled to. */
function BacklogHead({
  backlog: { view, count, filter, readAgain },
  reach,
}: {
  backlog: Backlog;
  reach: ReachHandle;
}) {
  const [creating, setCreating] = useState(false);
  const { pulledInto } = view;
  const limit = pulledInto?.limit ?? NO_LIMIT;
  const state = pulledInto && limitState(pulledInto.holds, limit);
  return (
    <div className="flex shrink-0 items-center gap-4 border-b border-line px-4 py-2.5">
      <h1 className="text-[18px]">Backlog</h1>
      <p className="text-ink-soft">
        {filter.narrows
          ? `${count} of ${counted(view.total, "item")}`
          : counted(view.total, "item")}
        {pulledInto && state && (
          <>
            {" · "}
            {pulledInto.column.stage} holds{" "}
            <b className={state.kind === "over" ? "text-alarm" : "text-ink"}>
              {limitWords(state, limit)}
            </b>
          </>
        )}
      </p>
      <span className="flex-1" />
      <BacklogFilterButton filter={filter} vocabulary={view.vocabulary} />
      <ReachFrom reach={reach} />
      <InNoColumn
        astray={view.astray}
        projectKey={view.project.key}
        mayDesign={view.rights.design}
      />
      <ButtonLink small look="quiet" href={`/p/${view.project.key}/flow?as=timeline`}>
        Timeline
      </ButtonLink>
      {view.rights.edit && (
        <NewItem
          projectKey={view.project.key}
          types={view.types}
          ownFields={view.ownFields}
          people={view.people}
          open={creating}
          onOpenChange={setCreating}
          onCreated={readAgain}
        />
      )}
    </div>
  );
}
