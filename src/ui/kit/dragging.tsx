"use client";
import { DndContext, type DndContextProps, type UniqueIdentifier } from "@dnd-kit/core";

type Accessibility = NonNullable<DndContextProps["accessibility"]>;

const nothing = () => undefined;

/** The library would tell whoever listens of ids; what comes of a drop is told by notices. */
const QUIET: Accessibility = {
  announcements: {
    onDragStart: nothing,
    onDragOver: nothing,
    onDragEnd: nothing,
    onDragCancel: nothing,
  },
  screenReaderInstructions: { draggable: "" },
};

/** Where things are carried by the pointer, or by keys where somebody says how they are called. */
export function Dragging(props: DndContextProps) {
  return <DndContext accessibility={QUIET} {...props} />;
}

/**
 * What is said to whoever listens while something is carried by keys.
 * @param nameOf how a thing, or the place of one, is called
 */
export function saysWhatIsCarried(nameOf: (id: UniqueIdentifier) => string): Accessibility {
  return {
    announcements: {
      onDragStart: ({ active }) => `${nameOf(active.id)} is picked up.`,
      onDragOver: ({ active, over }) =>
        over ? `${nameOf(active.id)} is at ${nameOf(over.id)}.` : undefined,
      onDragEnd: ({ active, over }) =>
        over ? `${nameOf(active.id)} is put at ${nameOf(over.id)}.` : `${nameOf(active.id)} stays.`,
      onDragCancel: ({ active }) => `${nameOf(active.id)} stays where it was.`,
    },
    screenReaderInstructions: {
      draggable: "Space picks it up, the arrows carry it, Space puts it down, Escape leaves it.",
    },
  };
}
