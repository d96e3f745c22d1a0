"use client";
import { FormProblem } from "@/ui/kit/note";
import { Button } from "@/ui/kit/button";
import { namedOptions, Select } from "@/ui/kit/select";
import { Field, TextInput } from "@/ui/kit/field";
import { Popover } from "@/ui/kit/popover";
import { Plus } from "lucide-react";
import { useState, type FormEvent } from "react";
import type { ItemType } from "@/core/item/item-type";
import { fieldsOfType, mustBeSaid, type OwnField, type OwnValue } from "@/core/item/own-field";
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
    (f) => f.kind !== "computed" && (f.onNewItem || mustBeSaid(f, typeId)),
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
    <Popover
      open={open}
      onOpenChange={onOpenChange}
      label="New item"
      align="end"
      className="w-[380px]"
      trigger={
        <Button>
          <Plus size={14} aria-hidden="true" /> New item
        </Button>
      }
    >
      <form onSubmit={(e) => void create(e)} className="flex flex-col gap-2">
        <Field label="What is to be done?">
          <TextInput
            autoFocus
            required
            maxLength={300}
            value={title}
            onChange={(e) => setTitle(e.target.value)}
          />
        </Field>
        <Field label="Type">
          <Select value={typeId} options={namedOptions(offered)} onChange={setTypeId} />
        </Field>
        {fields.map((f) => (
          <div key={f.id} className="flex flex-col gap-1 text-[12.5px] font-semibold">
            <span>
              {f.name}
              {mustBeSaid(f, typeId) && (
                <span className="font-normal text-ink-soft"> (must be said)</span>
              )}
            </span>
            <OwnFieldInput
              field={f}
              value={own[f.id] ?? f.initial}
              people={people}
              onChange={(value) => setOwn((o) => ({ ...o, [f.id]: value }))}
            />
          </div>
        ))}
        {problem && (
          <FormProblem>
            {problem.sentence} {problem.help}
          </FormProblem>
        )}
        <Button type="submit" disabled={busy} look="accent" className="self-end">
          Add to the backlog
        </Button>
      </form>
    </Popover>
  );
}
