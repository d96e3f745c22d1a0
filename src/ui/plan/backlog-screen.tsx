"use client";
import { Note } from "@/ui/kit/note";
import { Button } from "@/ui/kit/button";
import { counted } from "@/core/formats/counted";
import {
  DndContext,
  PointerSensor,
  closestCenter,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import { ArrowDown, ArrowUp, ArrowUpToLine, GripVertical } from "lucide-react";
import { useState, type KeyboardEvent, type ReactNode } from "react";
import { leadsFrom } from "@/core/workflow/workflow";
import type { Card } from "@/core/board/card";
import { limitState, limitWords } from "@/core/board/limit";
import { useBoard } from "@/ui/board/use-board";
import { inBay } from "@/ui/board/with-card";
import { TimeboxPanel } from "./timebox-panel";
import { useMoves } from "@/ui/board/use-moves";
import { NewItem } from "@/ui/item/new-item";
import { sendCommand, undoCommand } from "@/ui/item/send-command";
import { Initials } from "@/ui/kit/initials";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { ago } from "@/ui/kit/time";
import { usePages } from "@/ui/kit/use-pages";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import type { BoardView } from "@/core/board/board-view";

/** The ranked backlog: what is pulled next, in order. */
export function BacklogScreen({ initial }: { initial: BoardView }) {
  const { view, now, putCard, moving } = useBoard(initial);
  const { stopped, moveTo, workflowOf } = useMoves(view, putCard, moving);
  const { openItem, itemKey } = usePanel();
  const [creating, setCreating] = useState(false);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const backlog = view.cards.filter((c) => inBay(view, c));
  const { shown, end } = usePages(backlog);
  const first = view.columns[0];
  const ready = view.cards.filter((c) => first?.stateIds.includes(c.stateId)).length;
  const nameOf = new Map(view.people.map((p) => [p.id, p.name]));

  const place = async (card: Card, below: string | null) => {
    try {
      const { card: stored, commandId } = await sendCommand(card.id, { kind: "place", below });
      putCard(stored);
      tellDone(`${card.key} has its new place.`, async () =>
        putCard((await undoCommand(card.id, commandId)).card),
      );
    } catch (error) {
      tellProblem(error);
    }
  };
  const step = (card: Card, by: -1 | 1) => {
    const at = backlog.findIndex((c) => c.id === card.id);
    if (by === -1 && at > 0) void place(card, backlog[at - 2]?.id ?? null);
    if (by === 1 && at < backlog.length - 1) void place(card, backlog[at + 1].id);
  };
  const pull = (card: Card) => {
    const transition = workflowOf(card)?.transitions.find(
      (t) => leadsFrom(t, card.stateId) && first?.stateIds.includes(t.to),
    );
    if (transition) void moveTo(card, transition.to, transition.verb);
  };
  const onKey = (event: KeyboardEvent<HTMLElement>, card: Card) => {
    if (event.target !== event.currentTarget) return;
    const row = event.currentTarget;
    const done = () => event.preventDefault();
    if (event.key === "Enter") {
      done();
      openItem(card.key);
    } else if (event.key === "]" && view.rights.move) {
      done();
      pull(card);
    } else if (
      (event.key === "ArrowUp" || event.key === "ArrowDown") &&
      event.altKey &&
      view.rights.move
    ) {
      done();
      step(card, event.key === "ArrowUp" ? -1 : 1);
    } else if (event.key === "ArrowDown") {
      done();
      (row.nextElementSibling as HTMLElement | null)?.focus();
    } else if (event.key === "ArrowUp") {
      done();
      (row.previousElementSibling as HTMLElement | null)?.focus();
    }
  };
  const endDrag = ({ active, over }: DragEndEvent) => {
    const card = backlog.find((c) => c.id === active.id);
    if (!card || !over || over.id === active.id) return;
    const from = backlog.indexOf(card);
    const to = backlog.findIndex((c) => c.id === over.id);
    void place(card, to < from ? (backlog[to - 1]?.id ?? null) : backlog[to].id);
  };
  const state = first ? limitState(ready, first) : null;
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 items-center gap-4 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">Backlog of {view.project.name}</h1>
        <p className="text-ink-soft">
          {counted(backlog.length, "item")} in the order in which they are pulled
          {first && state && (
            <>
              {" · "}
              {first.stage} holds{" "}
              <b className={state.kind === "over" ? "text-alarm" : "text-ink"}>
                {limitWords(state, first)}
              </b>
            </>
          )}
        </p>
        <span className="flex-1" />
        {view.rights.edit && (
          <NewItem
            projectKey={view.project.key}
            types={view.types}
            ownFields={view.ownFields}
            people={view.people}
            open={creating}
            onOpenChange={setCreating}
            onCreated={putCard}
          />
        )}
      </div>
      {stopped && (
        <Note kind="problem">
          <b>{stopped.problem.sentence}</b> {stopped.problem.help}
        </Note>
      )}
      <div className="flex min-h-0 flex-1">
        <div className="min-w-0 flex-1 overflow-y-auto px-4 py-2">
          {backlog.length === 0 && (
            <p className="py-10 text-center text-ink-soft">
              The backlog is empty. Accept a report in Intake or add an item: it gets its place
              here.
            </p>
          )}
          <DndContext
            id="backlog-order"
            sensors={sensors}
            collisionDetection={closestCenter}
            onDragEnd={endDrag}
          >
            <ol aria-label="Backlog in order">
              {shown.map((card, i) => (
                <Row
                  key={card.id}
                  card={card}
                  onKey={onKey}
                  open={card.key === itemKey}
                  movable={view.rights.move}
                >
                  <span className="w-8 text-right font-display text-ink-soft">{i + 1}</span>
                  <TypeGlyph typeId={card.typeId} />
                  <span className="key w-[74px]">{card.key}</span>
                  <button
                    type="button"
                    tabIndex={-1}
                    className="min-w-0 flex-1 truncate text-left font-medium hover:underline"
                    onClick={() => openItem(card.key)}
                  >
                    {card.title}
                  </button>
                  {card.classOfService !== "standard" && (
                    <span className="text-[12.5px] text-signal-ink">
                      {card.classOfService}
                      {card.dueOn ? ` ${card.dueOn}` : ""}
                    </span>
                  )}
                  {card.origin === "unplanned" && (
                    <em className="text-[12.5px] text-ink-soft">unplanned</em>
                  )}
                  {card.severity && (
                    <span className="w-16 text-[12.5px] text-ink-soft">{card.severity}</span>
                  )}
                  <span className="w-14 text-[12.5px] text-ink-soft">{card.priority}</span>
                  <span className="w-8 text-right text-[12.5px]" title="estimate">
                    {card.estimate ?? "–"}
                  </span>
                  <span className="w-[92px] text-right text-[12.5px] text-ink-soft">
                    {ago(card.enteredStateAt, now)}
                  </span>
                  <span className="w-6">
                    {card.assigneeId && (
                      <Initials name={nameOf.get(card.assigneeId) ?? "Somebody"} />
                    )}
                  </span>
                  {view.rights.move && (
                    <span className="flex gap-0.5">
                      <RowButton
                        label={`${card.key} to the top`}
                        onClick={() => void place(card, null)}
                      >
                        <ArrowUpToLine size={14} aria-hidden="true" />
                      </RowButton>
                      <RowButton label={`${card.key} one up`} onClick={() => step(card, -1)}>
                        <ArrowUp size={14} aria-hidden="true" />
                      </RowButton>
                      <RowButton label={`${card.key} one down`} onClick={() => step(card, 1)}>
                        <ArrowDown size={14} aria-hidden="true" />
                      </RowButton>
                      <Button small onClick={() => pull(card)}>
                        Pull
                      </Button>
                    </span>
                  )}
                </Row>
              ))}
            </ol>
          </DndContext>
          {end}
        </div>
        <TimeboxPanel view={view} now={now} />
      </div>
      <p className="shrink-0 border-t border-line px-4 py-1 text-[12.5px] text-ink-soft">
        <kbd>↑</kbd> <kbd>↓</kbd> choose · <kbd>Alt ↑</kbd> <kbd>Alt ↓</kbd> change the order ·{" "}
        <kbd>]</kbd> pull · <kbd>Enter</kbd> open
      </p>
    </div>
  );
}

function RowButton({
  label,
  onClick,
  children,
}: {
  label: string;
  onClick: () => void;
  children: ReactNode;
}) {
  return (
    <Button
      aria-label={label}
      title={label}
      onClick={onClick}
      look="quiet"
      small
      className="!px-1.5"
    >
      {children}
    </Button>
  );
}

function Row({
  card,
  open,
  movable,
  onKey,
  children,
}: {
  card: Card;
  open: boolean;
  movable: boolean;
  onKey: (event: KeyboardEvent<HTMLElement>, card: Card) => void;
  children: ReactNode;
}) {
  const {
    setNodeRef: drag,
    listeners,
    transform,
    isDragging,
  } = useDraggable({ id: card.id, disabled: !movable });
  const { setNodeRef: drop, isOver } = useDroppable({ id: card.id });
  return (
    <li
      ref={drop}
      tabIndex={0}
      data-key={card.key}
      aria-label={`${card.key} ${card.title}`}
      onKeyDown={(e) => onKey(e, card)}
      className={`flex items-center gap-2 border-b border-line py-1 ${open ? "bg-accent-soft" : "hover:bg-sheet"} ${isOver && !isDragging ? "shadow-[inset_0_2px_0_var(--accent)]" : ""}`}
      style={
        transform
          ? {
              transform: `translateY(${transform.y}px)`,
              zIndex: 5,
              position: "relative",
              background: "var(--sheet)",
            }
          : undefined
      }
    >
      {movable && (
        <span ref={drag} {...listeners} className="cursor-grab text-line-strong" aria-hidden="true">
          <GripVertical size={14} />
        </span>
      )}
      {children}
    </li>
  );
}
