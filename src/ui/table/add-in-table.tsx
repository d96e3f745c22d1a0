"use client";
import { Plus } from "lucide-react";
import type { Condition } from "@/core/condition/condition";
import { AddLine } from "@/ui/adding/add-line";
import { sendCommand } from "@/ui/item/send-command";
import { Popover } from "@/ui/kit/popover";
import type { LookHandle } from "@/ui/view/use-look";

/** Adds items to a group of a table, or to its foot. */
export function AddInTable({
  handle,
  meaning,
  at,
  words,
  open,
  onOpenChange,
}: {
  handle: LookHandle;
  /** What the items there have in common. */
  meaning: Condition;
  at: "head" | "foot";
  words: string;
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  return (
    <Popover
      open={open}
      onOpenChange={onOpenChange}
      label={`Add at ${words}`}
      className="w-[340px]"
      trigger={
        <button
          type="button"
          tabIndex={-1}
          className="add-in-table"
          aria-label={`Add at ${words}`}
          onClick={(event) => event.stopPropagation()}
        >
          <Plus size={13} aria-hidden="true" />
        </button>
      }
    >
      <AddLine
        handle={handle}
        place={{ meaning, states: statesIn(meaning), at, words }}
        onMade={async (card, { into }) => {
          if (into)
            await sendCommand(card.id, {
              kind: "move",
              from: card.stateId,
              to: into.to,
              answers: {},
            });
          if (at === "head") await sendCommand(card.id, { kind: "place", below: null });
        }}
        onLeave={() => onOpenChange(false)}
      />
    </Popover>
  );
}

/** A group of a state is reached by a move, as a column is. */
const statesIn = (meaning: Condition): string[] =>
  meaning.kind === "compare" && meaning.fact === "stateId" && typeof meaning.value === "string"
    ? [meaning.value]
    : [];
