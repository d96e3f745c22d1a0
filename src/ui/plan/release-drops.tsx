"use client";
import {
  PointerSensor,
  pointerWithin,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import { Dragging } from "@/ui/kit/dragging";
import type { ReactNode } from "react";
import type { ReleaseLine } from "@/core/plan/release-view";
import type { ReleasesHandle } from "./use-releases";

/** A pointer must travel this far before a click becomes a drag. */
const DRAG_FROM_PX = 4;

/** Where items are dragged from one release to another, or into one. */
export function ReleaseDrops({
  handle: { view, shown, put },
  children,
}: {
  handle: ReleasesHandle;
  children: ReactNode;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAG_FROM_PX } }),
  );
  const drop = ({ active, over }: DragEndEvent) => {
    const here = [...(shown?.items ?? []), ...view.loose];
    const item = here.find(({ id }) => id === active.id);
    const to = view.releases.find(({ id }) => id === over?.id);
    const same = to?.id === shown?.release.id && shown?.items.some(({ id }) => id === item?.id);
    if (item && to && !same) void put(item, to);
  };
  return (
    <Dragging id="releases" sensors={sensors} collisionDetection={pointerWithin} onDragEnd={drop}>
      <div className="flex min-h-0 flex-1 max-sm:flex-col">{children}</div>
    </Dragging>
  );
}

/** A release in the list; items are dropped onto it while it is not out. */
export function ReleasePlace({
  line: { id, name, releasedAt },
  chosen,
  onLook,
  children,
}: {
  line: ReleaseLine;
  chosen: boolean;
  onLook: () => void;
  children: ReactNode;
}) {
  const { setNodeRef, isOver } = useDroppable({ id, disabled: releasedAt !== null });
  return (
    <button
      ref={setNodeRef}
      type="button"
      className="plan-card w-full text-left"
      data-release={name}
      data-over={isOver || undefined}
      aria-current={chosen}
      onClick={onLook}
    >
      {children}
    </button>
  );
}
