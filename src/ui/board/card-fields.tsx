"use client";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { itemField } from "@/core/item/fields";
import { projectKeyOf } from "@/core/item/key";
import { choicesOf, ItemFieldEditor } from "@/ui/item/field-editor";
import type { SendCard } from "./use-card-command";

/** What is changed of an item without opening it. */
export const IN_PLACE = [
  "title",
  "assigneeId",
  "reviewerId",
  "estimate",
  "priority",
  "dueOn",
  "labels",
] as const;
export type InPlace = (typeof IN_PLACE)[number];

/** The fields of an item that are changed at its card, each stored at once. */
export function CardFields({ view, card, send }: { view: BoardView; card: Card; send: SendCard }) {
  const store = async (field: InPlace, value: unknown) => {
    // A title that was emptied stays as it was.
    if (field === "title" && value === null) return;
    const changes = { [field]: value };
    const { words } = itemField(field);
    await send({
      card,
      shown: changes,
      command: { kind: "edit", seenVersion: card.version, changes },
      done: `${card.key}: ${words} changed.`,
    });
  };
  const members = view.membersOf?.[projectKeyOf(card.key)];
  const people = view.people.filter(
    ({ id, role }) => role !== "observer" && (members === undefined || members.includes(id)),
  );
  return (
    <div
      role="group"
      aria-label={`Change ${card.key}`}
      className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5 px-2"
    >
      {IN_PLACE.map((field) => (
        <div key={field} className="contents" data-in-place={field}>
          <ItemFieldEditor
            field={{ ...itemField(field), panel: "narrow" }}
            value={card[field]}
            options={choicesOf(itemField(field), { ...view, people })}
            projectKey={projectKeyOf(card.key)}
            locked={!view.rights.edit}
            onStore={(value) => store(field, value)}
          />
        </div>
      ))}
    </div>
  );
}
