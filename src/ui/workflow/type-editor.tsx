"use client";

import { counted } from "@/core/formats/counted";
import { type ItemType, LEVEL_WORDS, TYPE_GLYPHS, type TypeGlyphName } from "@/core/item/item-type";
import type { DesignView } from "@/core/workflow/design-view";
import { statesInOrder, type Workflow } from "@/core/workflow/workflow";
import { Field, TextArea, TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { namedOptions, Select } from "@/ui/kit/select";
import { GlyphDrawing } from "@/ui/kit/type-glyph";
import { showWorkflow, widenedWords } from "@/core/board/show-workflow";
import type { State } from "@/core/workflow/state";
import { useState } from "react";

/** A type as it is being made or changed. */
export type TypeDraft = Pick<
  ItemType,
  "id" | "name" | "level" | "workflowId" | "glyph" | "template"
>;

/** Everything that a type leaves open, and where items go that follow another workflow by it. */
export function TypeEditor({
  type,
  view,
  isNew,
  onSave,
  onCancel,
  onRemove,
}: {
  type: TypeDraft;
  view: DesignView;
  isNew: boolean;
  onSave: (draft: TypeDraft, newStates: Record<string, string>) => void;
  onCancel: () => void;
  onRemove: () => void;
}) {
  const { id, name, level, workflowId, glyph, template } = type;
  const [draft, setDraft] = useState<TypeDraft>({ id, name, level, workflowId, glyph, template });
  const [newStates, setNewStates] = useState<Record<string, string>>({});
  const set = (change: Partial<TypeDraft>) => setDraft((d) => ({ ...d, ...change }));
  const target = view.workflows.find((w) => w.id === draft.workflowId)!;
  const counts = view.countsByType[type.id] ?? {};
  const from = view.workflows.find((w) => w.id === workflowId);
  const toPlace =
    isNew || draft.workflowId === workflowId || !from
      ? []
      : statesInOrder(from).filter((s) => (counts[s.id] ?? 0) > 0);
  // A state of the same name, or else the first of the same kind, is most likely what is wanted.
  const guess = (stateId: string) => {
    const state = from!.states.find((s) => s.id === stateId)!;
    return (
      newStates[stateId] ??
      (
        target.states.find((s) => s.name === state.name) ??
        statesInOrder(target).find((s) => s.kind === state.kind) ??
        statesInOrder(target)[0]
      ).id
    );
  };
  return (
    <form
      className="mt-2 grid grid-cols-[minmax(0,260px)_minmax(0,1fr)] gap-x-6 gap-y-2 bg-sheet p-3"
      onSubmit={(e) => {
        e.preventDefault();
        onSave(draft, Object.fromEntries(toPlace.map((s) => [s.id, guess(s.id)])));
      }}
    >
      <div className="flex flex-col gap-2">
        <Field label="Name">
          <TextInput
            required
            autoFocus
            maxLength={40}
            value={draft.name}
            onChange={(e) => set({ name: e.target.value })}
          />
        </Field>
        <Field label="It is">
          <Select
            value={String(draft.level)}
            options={LEVEL_WORDS.map((label, value) => ({ value: String(value), label }))}
            onChange={(value) => set({ level: Number(value) })}
          />
        </Field>
        <Field label="It follows the workflow">
          <Select
            value={draft.workflowId}
            options={namedOptions(view.workflows)}
            onChange={(value) => set({ workflowId: value })}
          />
        </Field>
        <fieldset>
          <legend className="text-[12px] font-semibold">Its sign</legend>
          <div className="flex flex-wrap gap-1">
            {TYPE_GLYPHS.map((g: TypeGlyphName) => (
              <button
                key={g}
                type="button"
                aria-label={g}
                aria-pressed={draft.glyph === g}
                className={`rounded-[3px] border p-1.5 ${draft.glyph === g ? "border-accent bg-accent-soft text-ink" : "border-line text-ink-soft"}`}
                onClick={() => set({ glyph: g })}
              >
                <GlyphDrawing glyph={g} size={16} />
              </button>
            ))}
          </div>
        </fieldset>
      </div>
      <Field label="A new description begins with (Markdown)">
        <TextArea
          className="!font-normal"
          rows={9}
          maxLength={5_000}
          value={draft.template}
          onChange={(e) => set({ template: e.target.value })}
          placeholder="**Steps to reproduce** …"
        />
      </Field>
      {toPlace.length > 0 && (
        <GoAlong
          states={toPlace}
          counts={counts}
          target={target}
          goesTo={guess}
          onChange={(stateId, to) => setNewStates((all) => ({ ...all, [stateId]: to }))}
        />
      )}
      {draft.level >= 1 && <ShownThen workflow={target} view={view} />}
      <FormFooter
        className="col-span-full"
        send={isNew ? "Add the type" : "Store the type"}
        disabled={!draft.name.trim()}
        onLeave={onCancel}
        onRemove={isNew ? undefined : onRemove}
      />
    </form>
  );
}

/** What the board shows beyond what it does once a type follows a workflow that no board shows. */
function ShownThen({ workflow, view }: { workflow: Workflow; view: DesignView }) {
  const shown = new Set(view.boards.flatMap((b) => b.columns.flatMap((c) => c.stateIds)));
  const unshown = workflow.states.map((s) => s.id).filter((id) => !shown.has(id));
  const columns = widenedWords(showWorkflow(view.columns, workflow, unshown), workflow);
  if (columns.length === 0) return null;
  return (
    <div className="col-span-full text-[13px]">
      <p className="font-semibold">The board “{view.board.name}” shows its states then:</p>
      <ul>
        {columns.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
    </div>
  );
}

/** Where the items of a type go that follows another workflow from now on. */
function GoAlong({
  states,
  counts,
  target,
  goesTo,
  onChange,
}: {
  states: readonly State[];
  counts: Readonly<Record<string, number>>;
  target: Workflow;
  goesTo: (stateId: string) => string;
  onChange: (stateId: string, to: string) => void;
}) {
  return (
    <div className="col-span-full flex flex-col gap-1">
      <p className="text-[13px] font-semibold">Items of this type go along:</p>
      {states.map((s) => (
        <label key={s.id} className="flex items-center gap-2 text-[13px]">
          <span className="w-64">
            <b>{counted(counts[s.id], "item")}</b> in {s.name} {counts[s.id] === 1 ? "goes" : "go"}{" "}
            to
          </span>
          <span className="w-52">
            <Select
              label={`New state of what is in ${s.name}`}
              value={goesTo(s.id)}
              options={namedOptions(statesInOrder(target))}
              onChange={(to) => onChange(s.id, to)}
            />
          </span>
        </label>
      ))}
    </div>
  );
}
