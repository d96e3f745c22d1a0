"use client";
import { useDraggable } from "@dnd-kit/core";
import { GripVertical } from "lucide-react";
import type { ReactNode } from "react";
import type { ReleaseItem } from "@/core/plan/release-view";
import { TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import { shortDate } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";

interface RowAct {
  words: string;
  label: (key: string) => string;
  run: (item: ReleaseItem) => void;
}

/** Items of a release, or of none; each can be dragged onto another release. */
export function ReleaseItems({
  title,
  items,
  movable,
  act,
}: {
  title: string;
  items: readonly ReleaseItem[];
  /** Whether they can be dragged onto a release. */
  movable: boolean;
  act: RowAct | null;
}) {
  const { openItem } = usePanel();
  if (items.length === 0) return null;
  return (
    <>
      <h3 className="mt-4 mb-1 text-[14px]">{title}</h3>
      <ul className="release-items">
        {items.map((one) => (
          <Row key={one.id} item={one} movable={movable}>
            <TypeGlyph typeId={one.typeId} />
            <button type="button" title={one.title} onClick={() => openItem(one.key)}>
              <span className="key">{one.key}</span> {one.title}
            </button>
            <span>
              {one.deliveredOn ? `delivered ${shortDate(one.deliveredOn)}` : one.stateName}
            </span>
            <span>{one.assignee ?? "nobody yet"}</span>
            <b className="figures">{one.points ?? "–"}</b>
            {act && (
              <TextButton aria-label={act.label(one.key)} onClick={() => act.run(one)}>
                {act.words}
              </TextButton>
            )}
          </Row>
        ))}
      </ul>
    </>
  );
}

/** One of them; it is dragged by its grip. */
function Row({
  item: { id, key, stateKind },
  movable,
  children,
}: {
  item: ReleaseItem;
  movable: boolean;
  children: ReactNode;
}) {
  const { setNodeRef, listeners, transform } = useDraggable({ id, disabled: !movable });
  return (
    <li
      data-key={key}
      data-done={stateKind === "finished" || undefined}
      data-lifted={transform ? "" : undefined}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
    >
      <span
        ref={setNodeRef}
        {...(movable ? listeners : {})}
        className={movable ? "cursor-grab touch-none text-line-strong" : "invisible"}
        aria-hidden="true"
      >
        <GripVertical size={14} />
      </span>
      {children}
    </li>
  );
}
