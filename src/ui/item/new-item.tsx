"use client";
import { FormProblem } from "@/ui/kit/note";
import { Button } from "@/ui/kit/button";
import { namedOptions, Select } from "@/ui/kit/select";
import { Field, TextInput } from "@/ui/kit/field";
import { Popover } from "@/ui/kit/popover";
import { Plus } from "lucide-react";
import { useRef, useState, type FormEvent } from "react";
import type { ItemType } from "@/core/item/item-type";
import {
  fieldsOfType,
  isDerived,
  mustBeSaid,
  type OwnField,
  type OwnValue,
} from "@/core/item/own-field";
import type { Card } from "@/core/board/card";
import { OwnFieldInput } from "./own-field-input";
import { makeItem } from "./send-command";
import { problemOf, type Problem } from "@/ui/kit/request";
import { v7 as newId } from "uuid";

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
    (f) => !isDerived(f.kind) && (f.onNewItem || mustBeSaid(f, typeId)),
  );
  const [commandId, setCommandId] = useState(() => newId());
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const [made, setMade] = useState<Card | null>(null);
  const titleField = useRef<HTMLInputElement>(null);
  const show = (next: boolean) => {
    setMade(null);
    onOpenChange(next);
  };
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
      const description = types.find((t) => t.id === typeId)?.template ?? "";
      const card = await makeItem(
        { projectKey, fields: { title, typeId, description, own: said } },
        commandId,
      );
      onCreated(card);
      setMade(card);
      setTitle("");
      setOwn({});
      setProblem(null);
      setCommandId(newId());
      // The next one can be written at once.
      titleField.current?.focus();
    } catch (error) {
      setProblem(problemOf(error));
    }
    setBusy(false);
  };
  return (
    <Popover
      open={open}
      onOpenChange={show}
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
            ref={titleField}
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
        <OwnFields
          fields={fields}
          typeId={typeId}
          own={own}
          people={people}
          onChange={(id, value) => setOwn((o) => ({ ...o, [id]: value }))}
        />
        {problem && (
          <FormProblem>
            {problem.sentence} {problem.help}
          </FormProblem>
        )}
        <div className="flex items-center gap-3">
          <Made card={made} />
          <Button type="submit" disabled={busy} look="accent">
            Add to the backlog
          </Button>
        </div>
      </form>
    </Popover>
  );
}

/** What was just added, while the next one is written. */
function Made({ card }: { card: Card | null }) {
  return (
    <p role="status" className="min-w-0 flex-1 text-[12.5px] text-ink-soft">
      {card && (
        <>
          <b className="key">{card.key}</b> is at the end of the backlog. Write the next one, or
          leave with Esc.
        </>
      )}
    </p>
  );
}

/** The project's own fields that are asked for at the start; what must be said is marked. */
function OwnFields({
  fields,
  typeId,
  own,
  people,
  onChange,
}: {
  fields: readonly OwnField[];
  typeId: string;
  own: Readonly<Record<string, OwnValue | null>>;
  people: readonly { id: string; name: string }[];
  onChange: (fieldId: string, value: OwnValue | null) => void;
}) {
  return (
    <>
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
            onChange={(value) => onChange(f.id, value)}
          />
        </div>
      ))}
    </>
  );
}
