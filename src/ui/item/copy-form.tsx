"use client";
import { useState } from "react";
import { v7 as newId } from "uuid";
import { itemContract } from "@/core/item/contract";
import { COPY_PART_NAMES, COPY_PARTS, USUAL_PARTS, type CopyPart } from "@/core/item/copy";
import type { ItemView } from "@/core/item/item-view";
import { Check } from "@/ui/kit/check";
import { Field, FieldGroup, TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { tellDone } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { ask, problemOf } from "@/ui/kit/request";

/** Makes a copy of an item, with the parts of it that are chosen, and opens it. */
export function CopyForm({ view, onDone }: { view: ItemView; onDone: () => void }) {
  const { openItem } = usePanel();
  const [commandId] = useState(() => newId());
  const [title, setTitle] = useState(view.item.title);
  const [parts, setParts] = useState<readonly CopyPart[]>(USUAL_PARTS);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const offered = COPY_PART_NAMES.filter(
    (part) =>
      (part !== "children" || view.children.length > 0) &&
      (part !== "parent" || view.parent !== null),
  );
  const copy = async () => {
    setBusy(true);
    try {
      const { card } = await ask(itemContract.copy, {
        params: { key: view.key },
        body: { commandId, title, parts: parts.filter((part) => offered.includes(part)) },
      });
      tellDone(`${card.key} is a copy of ${view.key}.`);
      onDone();
      openItem(card.key);
    } catch (error) {
      const { sentence, help } = problemOf(error);
      setProblem(`${sentence} ${help}`);
      setBusy(false);
    }
  };
  return (
    <form
      aria-label="Make a copy"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void copy();
      }}
    >
      <Field label="Title">
        <TextInput
          autoFocus
          required
          maxLength={300}
          value={title}
          onChange={(event) => setTitle(event.target.value)}
        />
      </Field>
      <FieldGroup label="It takes along">
        <span className="flex flex-col gap-0.5 font-normal">
          {offered.map((part) => (
            <Check
              key={part}
              checked={parts.includes(part)}
              onChange={(on) =>
                setParts(on ? [...parts, part] : parts.filter((other) => other !== part))
              }
            >
              {COPY_PARTS[part]}
            </Check>
          ))}
        </span>
      </FieldGroup>
      <FormFooter send="Make the copy" busy={busy} problem={problem} onLeave={onDone} />
    </form>
  );
}
