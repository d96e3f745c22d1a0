"use client";
import { useDraggable } from "@dnd-kit/core";
import { GripVertical } from "lucide-react";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import type { Until } from "@/core/plan/reach-view";
import type { TimelineItem } from "@/core/timeline/view";
import { TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import { TypeGlyph } from "@/ui/kit/type-glyph";

/** So many stand there before the others are asked for. */
const SHOWN = 4;

/** What nothing says the days of: dragged onto a day, or placed where it is foretold. */
export function Undated({
  items,
  until,
  mayEdit,
  onPlace,
}: {
  items: readonly TimelineItem[];
  until: Readonly<Record<string, Until>>;
  mayEdit: boolean;
  onPlace: (item: TimelineItem) => void;
}) {
  const [all, setAll] = useState(false);
  if (items.length === 0) return null;
  return (
    <section aria-label="No days yet" className="tl-undated">
      <h2>
        No days yet{" "}
        <span>
          {counted(items.length, "item")}
          {mayEdit && " · drag one onto a day, or let the forecast place it"}
        </span>
      </h2>
      <ul>
        {items.slice(0, all ? undefined : SHOWN).map((item) => (
          <Chip
            key={item.id}
            item={item}
            foretold={until[item.id]?.sure != null}
            onPlace={onPlace}
          />
        ))}
        {items.length > SHOWN && (
          <li>
            <TextButton onClick={() => setAll(!all)}>
              {all ? "Fewer" : `${items.length - SHOWN} more`}
            </TextButton>
          </li>
        )}
      </ul>
    </section>
  );
}

function Chip({
  item,
  foretold,
  onPlace,
}: {
  item: TimelineItem;
  foretold: boolean;
  onPlace: (item: TimelineItem) => void;
}) {
  const { openItem } = usePanel();
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({
    id: item.id,
    data: { item },
    disabled: !item.mayEdit,
  });
  return (
    <li
      ref={setNodeRef}
      className="tl-chip"
      data-key={item.key}
      data-dragging={isDragging || undefined}
      style={
        transform
          ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 30 }
          : undefined
      }
    >
      {item.mayEdit && (
        <span className="tl-grip" {...listeners}>
          <GripVertical size={13} aria-hidden="true" />
        </span>
      )}
      <TypeGlyph typeId={item.typeId} />
      <button type="button" title={item.title} onClick={() => openItem(item.key)}>
        <span className="key">{item.key}</span> {item.title}
      </button>
      {item.mayEdit && (
        <TextButton
          aria-label={`Place ${item.key} ${foretold ? "by the forecast" : "from today on"}`}
          onClick={() => onPlace(item)}
        >
          Place
        </TextButton>
      )}
    </li>
  );
}
