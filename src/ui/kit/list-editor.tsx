"use client";
import {
  closestCenter,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { ArrowDown, ArrowUp, GripVertical, X } from "lucide-react";
import { useId, type KeyboardEvent, type ReactNode } from "react";
import { Dragging } from "./dragging";

const DRAG_FROM_PX = 4;

interface ListProps<Item> {
  label: string;
  items: readonly Item[];
  keyOf: (item: Item, index: number) => string;
  /** How a row is called by its buttons. */
  nameOf: (item: Item) => string;
  onRemove: (index: number) => void;
  /** Puts a row in another place; without it the order is not the person's. */
  onMove?: (from: number, to: number) => void;
  disabled?: boolean;
  empty?: ReactNode;
  row: (item: Item, index: number) => ReactNode;
  /** What adds a row. */
  children?: ReactNode;
}

/**
 * A list that grows and shrinks in place; where the order matters, each row is dragged by its
 * handle, moved by arrow keys on it, or goes up and down by buttons.
 */
export function ListEditor<Item>({
  label,
  items,
  keyOf,
  nameOf,
  onRemove,
  onMove,
  disabled = false,
  empty,
  row,
  children,
}: ListProps<Item>) {
  const context = useId();
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAG_FROM_PX } }),
  );
  const keys = items.map(keyOf);
  const move = disabled ? undefined : onMove;
  return (
    <div role="group" aria-label={label}>
      {items.length === 0 && empty && <p className="text-[13px] text-ink-soft">{empty}</p>}
      <Dragging
        id={context}
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={({ active, over }) => {
          const [from, to] = [active.id, over?.id].map((id) => keys.indexOf(String(id)));
          if (from >= 0 && to >= 0 && from !== to) move?.(from, to);
        }}
      >
        <ul>
          {items.map((item, i) => (
            <Row
              key={keys[i]}
              id={keys[i]}
              name={nameOf(item)}
              at={i}
              last={items.length - 1}
              onMove={move}
              onRemove={disabled ? undefined : () => onRemove(i)}
            >
              {row(item, i)}
            </Row>
          ))}
        </ul>
      </Dragging>
      {!disabled && children}
    </div>
  );
}

function Row({
  id,
  name,
  at,
  last,
  onMove,
  onRemove,
  children,
}: {
  id: string;
  name: string;
  at: number;
  last: number;
  onMove?: (from: number, to: number) => void;
  onRemove?: () => void;
  children: ReactNode;
}) {
  const { setNodeRef: drop, isOver } = useDroppable({ id });
  const {
    setNodeRef: drag,
    listeners,
    transform,
    isDragging,
  } = useDraggable({ id, disabled: !onMove });
  const step = (by: 1 | -1) => {
    if (at + by >= 0 && at + by <= last) onMove?.(at, at + by);
  };
  const onKeyDown = (e: KeyboardEvent) => {
    if (e.key !== "ArrowUp" && e.key !== "ArrowDown") return;
    e.preventDefault();
    step(e.key === "ArrowUp" ? -1 : 1);
  };
  return (
    <li
      ref={drop}
      className={`flex items-center gap-1 py-0.5 text-[13px] ${isOver && !isDragging ? "bg-accent-soft" : ""}`}
      style={
        transform
          ? { transform: `translateY(${transform.y}px)`, position: "relative", zIndex: 5 }
          : undefined
      }
    >
      {onMove && (
        <button
          type="button"
          ref={drag}
          {...listeners}
          onKeyDown={onKeyDown}
          className="button button-small button-quiet cursor-grab touch-none !px-0.5 text-ink-soft"
          aria-label={`${name}: drag it, or move it by arrow keys`}
          title="Drag, or arrow keys"
        >
          <GripVertical size={14} aria-hidden="true" />
        </button>
      )}
      <div className="flex min-w-0 flex-1 items-center gap-2">{children}</div>
      {onMove && (
        <>
          <RowButton label={`${name} goes up`} disabled={at === 0} onPress={() => step(-1)}>
            <ArrowUp size={14} aria-hidden="true" />
          </RowButton>
          <RowButton label={`${name} goes down`} disabled={at === last} onPress={() => step(1)}>
            <ArrowDown size={14} aria-hidden="true" />
          </RowButton>
        </>
      )}
      {onRemove && (
        <RowButton label={`Take out ${name}`} onPress={onRemove}>
          <X size={14} aria-hidden="true" />
        </RowButton>
      )}
    </li>
  );
}

function RowButton({
  label,
  disabled,
  onPress,
  children,
}: {
  label: string;
  disabled?: boolean;
  onPress: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      className="button button-small button-quiet !px-1"
      aria-label={label}
      title={label}
      disabled={disabled}
      onClick={onPress}
    >
      {children}
    </button>
  );
}
