"use client";
import { DndContext, PointerSensor, closestCenter, useSensor, useSensors } from "@dnd-kit/core";
import { useCallback, useState } from "react";
import type { Card } from "@/core/board/card";
import { limitState, limitWords, NO_LIMIT } from "@/core/board/limit";
import { counted } from "@/core/formats/counted";
import type { BacklogRows, BacklogView } from "@/core/plan/backlog-view";
import { InNoColumn } from "@/ui/board/in-no-column";
import { useMoves, type OnTheWay } from "@/ui/board/use-moves";
import { NewItem } from "@/ui/item/new-item";
import { ButtonLink } from "@/ui/kit/button";
import { MoreRows } from "@/ui/kit/more-rows";
import { Note } from "@/ui/kit/note";
import { usePanel } from "@/ui/kit/panel-context";
import { BacklogRow } from "./backlog-row";
import { TimeboxPanel } from "./timebox-panel";
import { useBacklog, type Backlog } from "./use-backlog";
import { useBacklogOrder } from "./use-backlog-order";

/** A pointer must travel this far before a click becomes a drag. */
const DRAG_FROM_PX = 4;

/** The ranked backlog: what is pulled next, in order. */
export function BacklogScreen({
  initial,
  firstRows,
}: {
  initial: BacklogView;
  firstRows: BacklogRows;
}) {
  const backlog = useBacklog(initial, firstRows);
  const { view, rows, around, more, putCard } = backlog;
  const [moving] = useState(() => new Map<string, OnTheWay>());
  const moves = useMoves(view, putCard, moving);
  const { openItem, itemKey } = usePanel();
  const open = useCallback((card: Card) => openItem(card.key), [openItem]);
  const order = useBacklogOrder(backlog, moves, open);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAG_FROM_PX } }),
  );
  const nameOf = new Map(view.people.map((p) => [p.id, p.name]));
  const { stopped } = moves;
  return (
    <div className="flex h-full flex-col">
      <BacklogHead backlog={backlog} />
      {stopped && (
        <Note kind="problem">
          <b>{stopped.problem.sentence}</b> {stopped.problem.help}
        </Note>
      )}
      <div className="flex min-h-0 flex-1">
        <div className="min-w-0 flex-1 overflow-y-auto px-4 py-2">
          {rows.length === 0 && (
            <p className="py-10 text-center text-ink-soft">
              The backlog is empty. Accept a report in Intake or add an item: it gets its place
              here.
            </p>
          )}
          <DndContext
            id="backlog-order"
            sensors={sensors}
            collisionDetection={closestCenter}
            onDragEnd={order.drop}
          >
            <ol aria-label="Backlog in order" className="@container">
              {rows.map((card, i) => (
                <BacklogRow
                  key={card.id}
                  card={card}
                  around={around[card.id]}
                  position={i + 1}
                  open={card.key === itemKey}
                  movable={view.rights.move}
                  assignee={card.assigneeId && (nameOf.get(card.assigneeId) ?? "Somebody")}
                  now={view.now}
                  order={order}
                  onOpen={open}
                />
              ))}
            </ol>
          </DndContext>
          {rows.length < view.total && (
            <MoreRows key={rows.length} rest={view.total - rows.length} onMore={more} />
          )}
        </div>
        <TimeboxPanel view={view} onChanged={backlog.readAgain} />
      </div>
      <p className="shrink-0 border-t border-line px-4 py-1 text-[12.5px] text-ink-soft">
        <kbd>↑</kbd> <kbd>↓</kbd> choose · <kbd>Alt ↑</kbd> <kbd>Alt ↓</kbd> change the order ·{" "}
        <kbd>]</kbd> pull · <kbd>Enter</kbd> open
      </p>
    </div>
  );
}

/** How much waits, and whether there is room for it where it is pulled to. */
function BacklogHead({ backlog: { view, readAgain } }: { backlog: Backlog }) {
  const [creating, setCreating] = useState(false);
  const { pulledInto } = view;
  const limit = pulledInto?.limit ?? NO_LIMIT;
  const state = pulledInto && limitState(pulledInto.holds, limit);
  return (
    <div className="flex shrink-0 items-center gap-4 border-b border-line px-4 py-2.5">
      <h1 className="text-[18px]">Backlog of {view.project.name}</h1>
      <p className="text-ink-soft">
        {counted(view.total, "item")} in the order in which they are pulled
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
      <InNoColumn
        astray={view.astray}
        projectKey={view.project.key}
        mayDesign={view.rights.design}
      />
      <ButtonLink small look="quiet" href={`/p/${view.project.key}/plan/parts`}>
        Parts
      </ButtonLink>
      {view.rights.design && (
        <ButtonLink small look="quiet" href={`/p/${view.project.key}/plan/withdrawn`}>
          Withdrawn
        </ButtonLink>
      )}
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
