"use client";
import {
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import { LANES, type LaneBy } from "@/core/plan/plan-lanes";
import type { PlanItem, PlanningView } from "@/core/plan/planning-view";
import { velocityRange } from "@/core/plan/sprint-ledger";
import { Dragging } from "@/ui/kit/dragging";
import { Button } from "@/ui/kit/button";
import { Select } from "@/ui/kit/select";
import { Sheet } from "@/ui/kit/sheet";
import { PlanColumn } from "./plan-column";
import { PlanSettingsForm } from "./plan-settings";
import { SprintsInARow } from "./sprints-in-a-row";
import { SprintColumn } from "./sprint-column";
import { usePlanning } from "./use-planning";

/** A pointer must travel this far before a click becomes a drag. */
const DRAG_FROM_PX = 4;
const BACKLOG = "backlog";

/** The next sprints side by side, each with what it can take, and the backlog beside them. */
export function PlanningScreen({ initial }: { initial: PlanningView }) {
  const handle = usePlanning(initial);
  const { view, items, move, readAgain } = handle;
  const [settling, setSettling] = useState(false);
  const [lanes, setLanes] = useState<LaneBy>("none");
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAG_FROM_PX } }),
  );
  const choose = (item: PlanItem) =>
    setChosen((now) => {
      const next = new Set(now);
      if (!next.delete(item.id)) next.add(item.id);
      return next;
    });
  /** One that is chosen takes all others that are along. */
  const withChosen = (item: PlanItem): PlanItem[] =>
    chosen.has(item.id) ? items.filter(({ id }) => chosen.has(id)) : [item];
  const moveTo = (item: PlanItem, sprintId: string | null) => {
    const moved = withChosen(item);
    setChosen(new Set());
    void move(moved, sprintId);
  };
  const drop = ({ active, over }: DragEndEvent) => {
    const item = items.find(({ id }) => id === active.id);
    if (item && over) moveTo(item, over.id === BACKLOG ? null : String(over.id));
  };
  const rows = {
    view,
    chosen,
    onChoose: view.rights.plan ? choose : undefined,
    onMove: view.rights.plan ? moveTo : undefined,
    lanes,
  };
  const backlog = items.filter(({ sprintId }) => sprintId === null);
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 items-center gap-4 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">Planning the next sprints</h1>
        <p className="text-ink-soft">{velocityOf(view)}</p>
        <span className="flex-1" />
        {chosen.size > 0 && (
          <span className="text-[13px]">
            {counted(chosen.size, "item")} chosen, drag one of them
          </span>
        )}
        <Select
          plain
          label="Lanes"
          className="!w-auto"
          value={lanes}
          options={LANES.map((one) => ({
            value: one,
            label: one === "none" ? "no lanes" : `lanes by ${one}`,
          }))}
          onChange={(next) => setLanes(next as LaneBy)}
        />
        {view.rights.settings && (
          <Button small look="quiet" onClick={() => setSettling(true)}>
            How we plan
          </Button>
        )}
        {view.rights.plan && <SprintsInARow view={view} onMade={() => void readAgain()} />}
      </div>
      <Dragging id="planning" sensors={sensors} collisionDetection={pointerWithin} onDragEnd={drop}>
        <div className="plan-columns">
          <PlanColumn
            id={BACKLOG}
            title="Backlog"
            aside={String(view.backlogTotal)}
            items={backlog}
            rows={rows}
            empty="Everything that waits is in a sprint."
          >
            <p className="text-[12.5px] text-ink-soft">in no sprint, best first</p>
          </PlanColumn>
          {view.sprints.map((sprint) => (
            <SprintColumn key={sprint.id} handle={handle} sprint={sprint} rows={rows} />
          ))}
          {view.sprints.length === 0 && (
            <p className="p-6 text-ink-soft">
              No sprint runs or comes. Make the next ones: then they stand here.
            </p>
          )}
        </div>
      </Dragging>
      <Sheet open={settling} onClose={() => setSettling(false)} title="How we plan">
        <PlanSettingsForm
          projectKey={view.project.key}
          settings={view.settings}
          onLeave={() => {
            setSettling(false);
            void readAgain();
          }}
        />
      </Sheet>
    </div>
  );
}

function velocityOf({ past, perPoint, focus }: PlanningView): string {
  const range = velocityRange(past.map(({ velocity }) => velocity));
  if (!range) return "of three sprints that have ended, it is said what to expect";
  const mean = Math.round(range.mean * 10) / 10;
  const told = `velocity of the last ${range.of}: ${mean}, from ${range.least} to ${range.most}`;
  if (perPoint === null) return told;
  const how = focus.by === "assumed" ? "assumed" : "by recorded time";
  return `${told} · focus share ${Math.round(focus.share * 100)} %, ${how}`;
}
