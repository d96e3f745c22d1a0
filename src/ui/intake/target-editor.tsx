"use client";
import { useState } from "react";
import type { Vocabulary } from "@/core/condition/vocabulary";
import type { ServiceTarget } from "@/core/intake/service-target";
import { ConditionEditor } from "@/ui/condition/condition-editor";

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

const FIELD = "flex flex-col gap-0.5 text-[12px] font-semibold";

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
      <label className={FIELD}>
        Name
        <input
          className="field"
          required
          autoFocus
          maxLength={60}
          value={draft.name}
          onChange={(e) => set({ name: e.target.value })}
          placeholder="Critical at the gates"
        />
      </label>
      <div className="grid grid-cols-2 gap-2">
        <label className={FIELD}>
          Answer within, hours
          <input
            className="field"
            type="number"
            min={0.1}
            step="any"
            value={draft.answerHours ?? ""}
            onChange={(e) => set({ answerHours: hours(e.target.value) })}
            placeholder="not promised"
          />
        </label>
        <label className={FIELD}>
          Done within, hours
          <input
            className="field"
            type="number"
            min={0.1}
            step="any"
            value={draft.resolveHours ?? ""}
            onChange={(e) => set({ resolveHours: hours(e.target.value) })}
            placeholder="not promised"
          />
        </label>
      </div>
      <fieldset className="flex gap-4 text-[13px]">
        <legend className="sr-only">Hours count</legend>
        {[true, false].map((working) => (
          <label key={String(working)} className="inline-flex items-center gap-1.5">
            <input
              type="radio"
              name={`working ${draft.id}`}
              className="accent-(--accent)"
              checked={draft.working === working}
              onChange={() => set({ working })}
            />
            {working ? "in working time" : "by the clock"}
          </label>
        ))}
      </fieldset>
      <p className="text-[12px] font-semibold">For items</p>
      <ConditionEditor
        sameForAll
        condition={draft.condition}
        vocabulary={vocabulary}
        onChange={(condition) => set({ condition })}
      />
      <div className="flex gap-2">
        <button
          type="submit"
          className="button button-small button-accent"
          disabled={!draft.name.trim()}
        >
          {isNew ? "Promise it" : "Store the promise"}
        </button>
        <button type="button" className="button button-small button-quiet" onClick={onCancel}>
          Leave it
        </button>
        {!isNew && (
          <button
            type="button"
            className="button button-small button-quiet ml-auto text-alarm"
            onClick={onRemove}
          >
            Take it out
          </button>
        )}
      </div>
    </form>
  );
}
