"use client";
import { Popover } from "radix-ui";
import { Plus } from "lucide-react";
import { useState, type FormEvent } from "react";
import type { ItemType } from "@/core/item/item-type";
import { fieldsOfType, type OwnField, type OwnValue } from "@/core/item/own-field";
import type { Card } from "@/core/board/card";
import { OwnFieldInput } from "./own-field-input";
import { tellDone } from "@/ui/kit/notice";
import { ask, problemOf, type Problem } from "@/ui/kit/request";
import { v7 as newId } from "uuid";
import { itemContract } from "@/core/item/contract";

/** A new item at the end of the backlog; everything but its title can wait. */
export function NewItem({
  projectKey,
  types,
  ownFields,
  people,
  open,
  onOpenChange,
  onCreated,
}: {
  projectKey: string;
  types: readonly ItemType[];
  ownFields: readonly OwnField[];
  people: readonly { id: string; name: string }[];
  open: boolean;
  onOpenChange: (open: boolean) => void;
  onCreated: (card: Card) => void;
}) {
  const [title, setTitle] = useState("");
  const offered = types.filter((t) => t.level >= 1 && t.removedAt === null);
  const [typeId, setTypeId] = useState(offered[0]?.id ?? "");
  const [own, setOwn] = useState<Record<string, OwnValue | null>>({});
  const fields = fieldsOfType(ownFields, typeId).filter(
    (f) => f.kind !== "computed" && (f.onNewItem || f.requiredAtStart),
  );
  const [commandId, setCommandId] = useState(() => newId());
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const create = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    const said = Object.fromEntries(
      fields.flatMap((f) => {
        const value = own[f.id] ?? f.initial;
        return value === null ? [] : [[f.id, value]];
      }),
    );
    try {
      const { card } = await ask(itemContract.make, {
        body: {
          commandId,
          projectKey,
          fields: {
            title,
            typeId,
            description: types.find((t) => t.id === typeId)?.template ?? "",
            own: said,
          },
        },
      });
      onCreated(card);
      tellDone(`${card.key} is at the end of the backlog.`);
      setTitle("");
      setOwn({});
      setProblem(null);
      onOpenChange(false);
      setCommandId(newId());
    } catch (error) {
      setProblem(problemOf(error));
    }
    setBusy(false);
  };
  return (
    <Popover.Root open={open} onOpenChange={onOpenChange}>
      <Popover.Trigger className="button">
        <Plus size={14} aria-hidden="true" /> New item
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="popover w-[380px]"
          aria-label="New item"
        >
          <form onSubmit={(e) => void create(e)} className="flex flex-col gap-2">
            <label className="flex flex-col gap-1 text-[12.5px] font-semibold">
              What is to be done?
              <input
                className="field"
                autoFocus
                required
                maxLength={300}
                value={title}
                onChange={(e) => setTitle(e.target.value)}
              />
            </label>
            <label className="flex flex-col gap-1 text-[12.5px] font-semibold">
              Type
              <select className="field" value={typeId} onChange={(e) => setTypeId(e.target.value)}>
                {offered.map((t) => (
                  <option key={t.id} value={t.id}>
                    {t.name}
                  </option>
                ))}
              </select>
            </label>
            {fields.map((f) => (
              <div key={f.id} className="flex flex-col gap-1 text-[12.5px] font-semibold">
                {f.name}
                {f.requiredAtStart && <span className="sr-only">, has to be said</span>}
                <OwnFieldInput
                  field={f}
                  value={own[f.id] ?? f.initial}
                  people={people}
                  onChange={(value) => setOwn((o) => ({ ...o, [f.id]: value }))}
                />
              </div>
            ))}
            {problem && (
              <p role="alert" className="text-[13px] text-alarm">
                {problem.sentence} {problem.help}
              </p>
            )}
            <button type="submit" disabled={busy} className="button button-accent self-end">
              Add to the backlog
            </button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
