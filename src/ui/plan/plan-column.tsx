"use client";
import { useDraggable, useDroppable } from "@dnd-kit/core";
import { Ellipsis } from "lucide-react";
import type { ReactNode } from "react";
import type { PlanItem, PlanningView } from "@/core/plan/planning-view";
import { counted } from "@/core/formats/counted";
import { planLanes, type LaneBy, type PlanLane } from "@/core/plan/plan-lanes";
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
  lanes: LaneBy;
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
  laneAside,
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
  /** What stands beside a lane, as how full it is. */
  laneAside?: (lane: PlanLane<PlanItem>) => ReactNode;
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
      {planLanes(items, rows.lanes, laneOrder(rows)).map((lane) => (
        <Lane key={lane.key ?? ""} lane={lane} rows={rows} aside={laneAside}>
          {lane.items.map((item) => (
            <PlanRow key={item.id} item={item} rows={rows} broken={broken?.has(item.id) ?? false} />
          ))}
        </Lane>
      ))}
      {items.length === 0 && <p className="py-3 text-[13px] text-ink-soft">{empty}</p>}
      {foot}
    </section>
  );
}

const laneOrder = ({ view, lanes }: PlanRows): string[] =>
  (lanes === "person" ? view.people : view.teams).map(({ id }) => id);

const NOBODY = { person: "Nobody yet", team: "No team", priority: "none", none: "" } as const;

/** The rows of a column that have something in common, with what they come to. */
function Lane({
  lane,
  rows: { view, lanes },
  aside,
  children,
}: {
  lane: PlanLane<PlanItem>;
  rows: PlanRows;
  aside?: (lane: PlanLane<PlanItem>) => ReactNode;
  children: ReactNode;
}) {
  const list = <ul className="mt-1.5 flex flex-col gap-1.5">{children}</ul>;
  if (lanes === "none") return list;
  const named = [...view.people, ...view.teams].find(({ id }) => id === lane.key)?.name;
  const name = lane.key === null ? NOBODY[lanes] : (named ?? lane.key);
  const points = lane.items.reduce((sum, { estimate }) => sum + (estimate ?? 0), 0);
  return (
    <section aria-label={name} className="plan-lane" data-lane={name}>
      <h3>
        <span className="min-w-0 flex-1 truncate">{name}</span>
        <span className="whitespace-nowrap font-normal tabular-nums">
          {aside?.(lane) ?? counted(points, "point")}
        </span>
      </h3>
      {list}
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
