"use client";
import { FormFooter } from "@/ui/kit/form-footer";
import { Select } from "@/ui/kit/select";
import { Check } from "@/ui/kit/check";
import { Field, TextInput, TextArea } from "@/ui/kit/field";
import { useState } from "react";
import { parseFormula, printFormula } from "@/core/condition/formula-text";
import { OWN_FIELD_KINDS, type OwnField, type OwnFieldKind } from "@/core/item/own-field";
import type { DesignView } from "@/core/workflow/design-view";
import { OwnFieldInput } from "@/ui/item/own-field-input";
import { v7 as newId } from "uuid";
import { optionsIn } from "@/core/item/own-field-options";

export const KIND_WORDS: Record<OwnFieldKind, string> = {
  text: "text",
  number: "number",
  date: "date",
  "one of": "one of some",
  "many of": "some of many",
  person: "person",
  "yes or no": "yes or no",
  link: "web address",
  computed: "computed number",
};

/** A field as it begins. */
export function newField(id: string): OwnField {
  return {
    id,
    name: "",
    kind: "text",
    unit: null,
    options: [],
    formula: null,
    initial: null,
    typeIds: [],
    requiredAtStart: false,
    onCard: false,
    onNewItem: false,
    position: 0,
    removedAt: null,
  };
}

type Draft = Omit<OwnField, "position" | "removedAt">;

/** Everything that a field leaves open. */
export function FieldEditor({
  field,
  isNew,
  view,
  onSave,
  onCancel,
  onRemove,
}: {
  field: OwnField;
  isNew: boolean;
  view: DesignView;
  onSave: (draft: Draft) => void;
  onCancel: () => void;
  onRemove: () => void;
}) {
  const { position: _, removedAt: __, ...given } = field;
  const { vocabulary } = view.around;
  const [draft, setDraft] = useState<Draft>(given);
  const [formulaText, setFormulaText] = useState(() =>
    given.formula ? printFormula(given.formula, vocabulary) : "",
  );
  const set = (change: Partial<Draft>) => setDraft((d) => ({ ...d, ...change }));
  const isChoice = draft.kind === "one of" || draft.kind === "many of";
  const isNumber = draft.kind === "number" || draft.kind === "computed";
  const { formula, problem } =
    draft.kind === "computed"
      ? parseFormula(formulaText, vocabulary)
      : { formula: null, problem: null };
  const offered = draft.options.filter((o) => o.offered);
  const ready =
    draft.name.trim() !== "" &&
    (draft.kind !== "computed" || formula !== null) &&
    (!isChoice || offered.length > 0);
  return (
    <form
      className="mt-2 grid grid-cols-2 gap-x-6 gap-y-2 bg-sheet p-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (ready)
          onSave({
            ...draft,
            formula,
            unit: isNumber ? draft.unit : null,
            options: isChoice ? draft.options : [],
            initial: draft.kind === "computed" ? null : draft.initial,
          });
      }}
    >
      <div className="flex flex-col gap-2">
        <Field label="Name">
          <TextInput
            required
            autoFocus
            maxLength={60}
            value={draft.name}
            onChange={(e) => set({ name: e.target.value })}
            placeholder="Value lost per week"
          />
        </Field>
        <Field label={isNew ? "It holds" : "It holds (cannot change any more)"}>
          <Select
            value={draft.kind}
            disabled={!isNew}
            options={OWN_FIELD_KINDS.map((kind) => ({ value: kind, label: KIND_WORDS[kind] }))}
            onChange={(kind) => set({ kind: kind as OwnFieldKind, initial: null })}
          />
        </Field>
        {isNumber && (
          <Field label="Unit">
            <TextInput
              maxLength={20}
              value={draft.unit ?? ""}
              onChange={(e) => set({ unit: e.target.value || null })}
              placeholder="pounds"
            />
          </Field>
        )}
        {isChoice && (
          <Field label="Choices, one a line">
            <TextArea
              className="!font-normal"
              rows={4}
              defaultValue={offered.map((o) => o.name).join("\n")}
              onChange={(e) => set({ options: optionsIn(e.target.value, draft.options, newId) })}
            />
          </Field>
        )}
        {draft.kind === "computed" && (
          <FormulaField text={formulaText} problem={problem} onChange={setFormulaText} />
        )}
        {draft.kind !== "computed" && (
          <div className="flex flex-col gap-0.5 text-[12px] font-semibold">
            A new item begins with
            <OwnFieldInput
              field={{
                ...draft,
                name: `Initial value of ${draft.name}`,
                position: 0,
                removedAt: null,
              }}
              value={draft.initial}
              people={vocabulary.people}
              onChange={(initial) => set({ initial })}
            />
          </div>
        )}
      </div>
      <FieldPlaces draft={draft} view={view} set={set} />
      <FormFooter
        className="col-span-full"
        send={isNew ? "Add the field" : "Store the field"}
        disabled={!ready}
        onLeave={onCancel}
        onRemove={isNew ? undefined : onRemove}
      />
    </form>
  );
}

function Tick({
  label,
  checked,
  onChange,
}: {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}) {
  return (
    <Check checked={checked} onChange={onChange}>
      {label}
    </Check>
  );
}

/** Which types have a field, and where it is shown and asked for. */
function FieldPlaces({
  draft,
  view,
  set,
}: {
  draft: Draft;
  view: DesignView;
  set: (change: Partial<Draft>) => void;
}) {
  return (
    <div className="flex flex-col gap-2 text-[13px]">
      <fieldset>
        <legend className="text-[12px] font-semibold">Which types have it</legend>
        <Check
          checked={draft.typeIds.length === 0}
          onChange={(on) =>
            set({
              typeIds: on ? [] : view.types.filter((t) => t.removedAt === null).map((t) => t.id),
            })
          }
        >
          every type
        </Check>
        {draft.typeIds.length > 0 &&
          view.types
            .filter((t) => t.removedAt === null)
            .map((t) => (
              <Check
                key={t.id}
                checked={draft.typeIds.includes(t.id)}
                disabled={draft.typeIds.length === 1 && draft.typeIds[0] === t.id}
                onChange={(on) =>
                  set({
                    typeIds: on
                      ? [...draft.typeIds, t.id]
                      : draft.typeIds.filter((id) => id !== t.id),
                  })
                }
                className="ml-4"
              >
                {t.name}
              </Check>
            ))}
      </fieldset>
      <fieldset className="flex flex-col gap-0.5">
        <legend className="text-[12px] font-semibold">Where it is shown and asked for</legend>
        <p className="text-ink-soft">On the item, always.</p>
        <Tick
          label="on cards of the board"
          checked={draft.onCard}
          onChange={(onCard) => set({ onCard })}
        />
        {draft.kind !== "computed" && (
          <>
            <Tick
              label="in the form for a new item"
              checked={draft.onNewItem || draft.requiredAtStart}
              onChange={(onNewItem) =>
                set({ onNewItem, requiredAtStart: onNewItem && draft.requiredAtStart })
              }
            />
            <Tick
              label="a new item must say it"
              checked={draft.requiredAtStart}
              onChange={(requiredAtStart) => set({ requiredAtStart })}
            />
            <p className="text-[12.5px] text-ink-soft">
              A move can demand it too: choose the move on the map, then “a field is filled”.
            </p>
          </>
        )}
      </fieldset>
    </div>
  );
}

/** What a computed number is made of; what is wrong is said with its place. */
function FormulaField({
  text,
  problem,
  onChange,
}: {
  text: string;
  problem: ReturnType<typeof parseFormula>["problem"];
  onChange: (text: string) => void;
}) {
  return (
    <Field label="Formula">
      <TextInput
        className="key !font-normal !text-ink"
        aria-invalid={problem !== null && text !== ""}
        value={text}
        onChange={(e) => onChange(e.target.value)}
        maxLength={1_000}
        placeholder="item.value_lost_per_week * item.weeks_of_delay"
        spellCheck={false}
      />
      {problem && text !== "" && (
        <span role="alert" className="font-normal text-alarm">
          Character {problem.at + 1}: {problem.sentence}
        </span>
      )}
      <span className="font-normal text-ink-soft">
        Numbers of an item, + − * / and brackets. Without one of its numbers there is no value.
      </span>
    </Field>
  );
}
