"use client";
import { useDroppable } from "@dnd-kit/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import type { ReactNode } from "react";
import type { BoardView } from "@/core/board/board-view";
import { counted } from "@/core/formats/counted";
import { planContract } from "@/core/plan/contract";
import type { PlanningView, PlanSprint } from "@/core/plan/planning-view";
import { sprintLoad } from "@/core/plan/sprint-load";
import { Button } from "@/ui/kit/button";
import { problemOf, queryOf } from "@/ui/kit/request";
import { shortDate } from "@/ui/kit/time";
import { useReadAgain } from "@/ui/kit/use-read-again";
import { RoomBar } from "@/ui/plan/room-bar";
import { turnSprintsBeside, useSprintsBeside } from "./use-sprints-beside";

/** Whether a board can have the sprints beside it: one of the process of one project that has some. */
export const hasSprintsBeside = ({ board, membersOf, sprints }: BoardView): boolean =>
  board.columnsBy === "state" && membersOf === null && sprints.some(({ past }) => !past);

/** Opens the sprints beside a board, and closes them. */
export function SprintsButton({ view }: { view: BoardView }) {
  const open = useSprintsBeside();
  if (!hasSprintsBeside(view)) return null;
  return (
    <Button aria-pressed={open} title="Sprints to drop cards onto" onClick={turnSprintsBeside}>
      Sprints
    </Button>
  );
}

/** Right of the columns: the sprints that run or come with their room; cards are dropped onto them. */
export function SprintsBeside({ view }: { view: BoardView }) {
  const open = useSprintsBeside();
  return open && hasSprintsBeside(view) ? <Sprints projectKey={view.project.key} /> : null;
}

function Sprints({ projectKey }: { projectKey: string }) {
  const client = useQueryClient();
  const query = queryOf(planContract.planning, { params: { key: projectKey } });
  const { data, error } = useQuery(query);
  useReadAgain(
    ({ kind }) => ["item", "design", "resync"].includes(kind),
    () => client.invalidateQueries({ queryKey: query.queryKey }),
  );
  return (
    <aside
      aria-label="Sprints beside the board"
      aria-busy={data === undefined}
      className="flex w-[216px] shrink-0 flex-col overflow-y-auto border-l border-line-strong bg-sheet px-3 pb-2"
    >
      <h2 className="text-[14px]">Sprints</h2>
      {error && <p className="text-[13px] text-alarm">{problemOf(error).sentence}</p>}
      {!data && !error && <p className="text-[13px] text-ink-soft">Reckoning their room…</p>}
      {data?.sprints.map((sprint) => (
        <SprintPlace key={sprint.id} sprint={sprint} plan={data} />
      ))}
      {data && (
        <Place id={null} name="In no sprint">
          <p className="text-[12.5px] text-ink-soft">taken out of its sprint</p>
        </Place>
      )}
    </aside>
  );
}

function SprintPlace({ sprint, plan }: { sprint: PlanSprint; plan: PlanningView }) {
  const { items, points, room, over } = sprintLoad(plan, sprint);
  return (
    <Place
      id={sprint.id}
      name={sprint.name}
      aside={`${shortDate(sprint.startsOn)} – ${shortDate(sprint.endsOn)}`}
      now={sprint.standing === "running"}
    >
      <RoomBar load={points} room={room} />
      <p className="text-[12.5px]">
        <b className={over > 0 ? "text-alarm" : ""}>
          {room === null ? counted(points, "point") : `${points} of ${counted(room, "point")}`}
          {over > 0 && `, ${over} over`}
        </b>
        <span className="text-ink-soft"> · {counted(items, "open item")}</span>
      </p>
    </Place>
  );
}

function Place({
  id,
  name,
  aside,
  now = false,
  children,
}: {
  /** Null: out of every sprint. */
  id: string | null;
  name: string;
  aside?: string;
  now?: boolean;
  children: ReactNode;
}) {
  const { setNodeRef, isOver } = useDroppable({
    id: `sprint ${id}`,
    data: { sprint: { id, name } },
  });
  return (
    <div
      ref={setNodeRef}
      className="plan-card"
      data-sprint-place={name}
      data-over={isOver || undefined}
      data-now={now || undefined}
    >
      <p className="flex items-baseline gap-2">
        <b className="min-w-0 flex-1 truncate">{name}</b>
        <span className="shrink-0 text-[12px] text-ink-soft">{aside}</span>
      </p>
      {children}
    </div>
  );
}
