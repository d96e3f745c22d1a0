"use client";
import { FormFooter } from "@/ui/kit/form-footer";
import { Choice } from "@/ui/kit/check";
import { Field, TextInput } from "@/ui/kit/field";
import { useState } from "react";
import type { Vocabulary } from "@/core/condition/vocabulary";
import type { ServiceTarget } from "@/core/intake/service-target";
import { ConditionEditor } from "@/ui/condition/condition-editor";
import { useWritten } from "@/ui/condition/use-written";

/** A promise as it begins. */
export function newTarget(id: string): ServiceTarget {
  return {
    id,
    name: "",
    condition: { kind: "compare", fact: "typeId", op: "is", value: "bug" },
    answerHours: 8,
    resolveHours: 80,
    working: true,
  };
}

/** What a promise leaves open. */
export function TargetEditor({
  target,
  vocabulary,
  isNew,
  onSave,
  onCancel,
  onRemove,
}: {
  target: ServiceTarget;
  vocabulary: Vocabulary;
  isNew: boolean;
  onSave: (target: ServiceTarget) => void;
  onCancel: () => void;
  onRemove: () => void;
}) {
  const [draft, setDraft] = useState(target);
  const set = (change: Partial<ServiceTarget>) => setDraft((d) => ({ ...d, ...change }));
  const condition = useWritten(draft.condition, (next) => set({ condition: next }));
  const hours = (text: string) => (text.trim() === "" ? null : Number(text));
  return (
    <form
      aria-label="Promise"
      className="mt-1 flex flex-col gap-2 bg-sheet p-3"
      onSubmit={(e) => {
        e.preventDefault();
        onSave(draft);
      }}
    >
      <Field label="Name">
        <TextInput
          required
          autoFocus
          maxLength={60}
          value={draft.name}
          onChange={(e) => set({ name: e.target.value })}
          placeholder="What is critical"
        />
      </Field>
      <div className="grid grid-cols-2 gap-2">
        <Field label="Answer within, hours">
          <TextInput
            type="number"
            min={0.1}
            step="any"
            value={draft.answerHours ?? ""}
            onChange={(e) => set({ answerHours: hours(e.target.value) })}
            placeholder="not promised"
          />
        </Field>
        <Field label="Done within, hours">
          <TextInput
            type="number"
            min={0.1}
            step="any"
            value={draft.resolveHours ?? ""}
            onChange={(e) => set({ resolveHours: hours(e.target.value) })}
            placeholder="not promised"
          />
        </Field>
      </div>
      <fieldset className="flex gap-4 text-[13px]">
        <legend className="sr-only">Hours count</legend>
        {[true, false].map((working) => (
          <Choice
            key={String(working)}
            name={`working ${draft.id}`}
            checked={draft.working === working}
            onChange={() => set({ working })}
          >
            {working ? "in working time" : "by the clock"}
          </Choice>
        ))}
      </fieldset>
      <p className="text-[12px] font-semibold">For items</p>
      <ConditionEditor
        sameForAll
        condition={condition.written}
        vocabulary={vocabulary}
        onChange={condition.write}
      />
      <FormFooter
        send={isNew ? "Promise it" : "Store the promise"}
        disabled={!draft.name.trim() || condition.unfinished}
        onLeave={onCancel}
        onRemove={isNew ? undefined : onRemove}
      />
    </form>
  );
}
