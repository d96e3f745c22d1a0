"use client";
import { useDraggable, useDroppable } from "@dnd-kit/core";
import { Ellipsis } from "lucide-react";
import type { ReactNode } from "react";
import type { PlanItem, PlanningView } from "@/core/plan/planning-view";
import { Button } from "@/ui/kit/button";
import { Initials } from "@/ui/kit/initials";
import { Menu, MenuItem, MenuSection } from "@/ui/kit/menu";
import { usePanel } from "@/ui/kit/panel-context";
import { Size } from "@/ui/kit/sizes";
import { TypeGlyph } from "@/ui/kit/type-glyph";

/** What rows of the plan can do. */
export interface PlanRows {
  view: PlanningView;
  chosen: ReadonlySet<string>;
  onChoose?: (item: PlanItem) => void;
  onMove?: (item: PlanItem, sprintId: string | null) => void;
}

/** A column of the plan: the backlog, or a sprint. Rows are dropped onto it. */
export function PlanColumn({
  id,
  title,
  aside,
  items,
  rows,
  broken,
  running = false,
  empty,
  children,
  foot,
}: {
  id: string;
  title: string;
  aside: string;
  items: readonly PlanItem[];
  rows: PlanRows;
  /** Those whose place breaks a dependency. */
  broken?: ReadonlySet<string>;
  running?: boolean;
  /** Said where there is nothing. */
  empty: string;
  children: ReactNode;
  foot?: ReactNode;
}) {
  const { setNodeRef, isOver } = useDroppable({ id });
  return (
    <section
      ref={setNodeRef}
      aria-label={title}
      className="plan-column"
      data-over={isOver || undefined}
      data-running={running || undefined}
    >
      <div className="flex items-baseline gap-2">
        <h2 className="min-w-0 flex-1 truncate text-[15px]">{title}</h2>
        <span className="text-[12.5px] text-ink-soft">{aside}</span>
      </div>
      {children}
      <ul className="mt-1.5 flex flex-col gap-1.5">
        {items.map((item) => (
          <PlanRow key={item.id} item={item} rows={rows} broken={broken?.has(item.id) ?? false} />
        ))}
      </ul>
      {items.length === 0 && <p className="py-3 text-[13px] text-ink-soft">{empty}</p>}
      {foot}
    </section>
  );
}

function PlanRow({ item, rows, broken }: { item: PlanItem; rows: PlanRows; broken: boolean }) {
  const { view, chosen, onChoose, onMove } = rows;
  const { openItem } = usePanel();
  const { setNodeRef, listeners, transform } = useDraggable({ id: item.id, disabled: !onMove });
  const assignee = view.people.find(({ id }) => id === item.assigneeId)?.name;
  return (
    <li
      ref={setNodeRef}
      className="plan-row"
      data-key={item.key}
      data-chosen={chosen.has(item.id) || undefined}
      data-broken={broken || undefined}
      style={
        transform
          ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 5 }
          : undefined
      }
      {...listeners}
    >
      <TypeGlyph typeId={item.typeId} />
      <span className="key text-[12px]">{item.key}</span>
      <button
        type="button"
        className="min-w-0 flex-1 truncate text-left font-medium hover:underline"
        onClick={() => openItem(item.key)}
      >
        {item.title}
      </button>
      {assignee && <Initials name={assignee} size={20} />}
      <b className="min-w-4 text-right tabular-nums">
        <Size of={item.estimate} />
      </b>
      {onMove && (
        <Menu
          align="end"
          trigger={
            <Button small look="quiet" className="!px-1" aria-label={`More for ${item.key}`}>
              <Ellipsis size={13} aria-hidden="true" />
            </Button>
          }
        >
          {onChoose && (
            <MenuItem onSelect={() => onChoose(item)}>
              {chosen.has(item.id) ? "Leave it out" : "Choose it, with others"}
            </MenuItem>
          )}
          <MenuSection>
            {view.sprints
              .filter(({ id }) => id !== item.sprintId)
              .map(({ id, name }) => (
                <MenuItem key={id} onSelect={() => onMove(item, id)}>
                  Into {name}
                </MenuItem>
              ))}
            {item.sprintId !== null && (
              <MenuItem onSelect={() => onMove(item, null)}>Back to the backlog</MenuItem>
            )}
          </MenuSection>
        </Menu>
      )}
    </li>
  );
}
