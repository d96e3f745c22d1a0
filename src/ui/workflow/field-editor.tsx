"use client";
import { FormFooter } from "@/ui/kit/form-footer";
import { Select } from "@/ui/kit/select";
import { Field, TextInput, TextArea } from "@/ui/kit/field";
import { useState, type ComponentProps } from "react";
import { parseFormula, printFormula } from "@/core/condition/formula-text";
import {
  isDerived,
  isShown,
  OWN_FIELD_KINDS,
  PLAIN_FIELD,
  type OwnField,
  type OwnFieldKind,
} from "@/core/item/own-field";
import type { DesignView } from "@/core/workflow/design-view";
import { FieldPlaces, type FieldDraft } from "./field-places";
import { FormulaField } from "./formula-field";
import { SourceFields } from "./source-fields";
import { OwnFieldInput } from "@/ui/item/own-field-input";
import { v7 as newId } from "uuid";
import { optionsIn } from "@/core/item/own-field-options";

const SHOWN = "value of something linked";

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
  "shown number": SHOWN,
  "shown date": SHOWN,
  "shown text": SHOWN,
};

/** Each kind once: how a shown value is compared follows from what is shown. */
const CHOOSABLE = OWN_FIELD_KINDS.filter((kind) => !isShown(kind) || kind === "shown text");

const holdsNumber = (kind: OwnFieldKind): boolean =>
  kind === "number" || kind === "computed" || kind === "shown number";

/** A field as it begins. */
export const newField = (id: string): OwnField => ({
  ...PLAIN_FIELD,
  id,
  name: "",
  kind: "text",
  position: 0,
});

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
  onSave: (draft: FieldDraft) => void;
  onCancel: () => void;
  onRemove: () => void;
}) {
  const { position: _, removedAt: __, ...given } = field;
  const { vocabulary } = view.around;
  const [draft, setDraft] = useState<FieldDraft>(given);
  const [formulaText, setFormulaText] = useState(() =>
    given.formula ? printFormula(given.formula, vocabulary) : "",
  );
  // Of some types, while none of them is named yet.
  const [everyType, setEveryType] = useState(given.typeIds.length === 0);
  const set = (change: Partial<FieldDraft>) => setDraft((d) => ({ ...d, ...change }));
  const isChoice = draft.kind === "one of" || draft.kind === "many of";
  const isNumber = holdsNumber(draft.kind);
  const shows = isShown(draft.kind);
  const { formula, problem } =
    draft.kind === "computed"
      ? parseFormula(formulaText, vocabulary)
      : { formula: null, problem: null };
  const offered = draft.options.filter((o) => o.offered);
  const ready =
    draft.name.trim() !== "" &&
    (draft.kind !== "computed" || formula !== null) &&
    (!shows || draft.source !== null) &&
    (!isChoice || offered.length > 0) &&
    (everyType || draft.typeIds.length > 0);
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
            source: shows ? draft.source : null,
            initial: isDerived(draft.kind) ? null : draft.initial,
          });
      }}
    >
      <WhatItHolds
        draft={draft}
        isNew={isNew}
        view={view}
        set={set}
        formula={{ text: formulaText, problem, onChange: setFormulaText }}
      />
      <FieldPlaces
        draft={draft}
        view={view}
        set={set}
        everyType={everyType}
        onEveryType={setEveryType}
      />
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

/** What a field is called, holds and begins with. */
function WhatItHolds({
  draft,
  isNew,
  view,
  set,
  formula,
}: {
  draft: FieldDraft;
  isNew: boolean;
  view: DesignView;
  set: (change: Partial<FieldDraft>) => void;
  formula: Pick<ComponentProps<typeof FormulaField>, "text" | "problem" | "onChange">;
}) {
  const { vocabulary } = view.around;
  const isChoice = draft.kind === "one of" || draft.kind === "many of";
  const isNumber = holdsNumber(draft.kind);
  const offered = draft.options.filter((o) => o.offered);
  return (
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
          value={isShown(draft.kind) ? "shown text" : draft.kind}
          disabled={!isNew}
          options={CHOOSABLE.map((kind) => ({ value: kind, label: KIND_WORDS[kind] }))}
          onChange={(kind) => set({ kind: kind as OwnFieldKind, initial: null, source: null })}
        />
      </Field>
      {isNumber && (
        <Field label="Unit">
          <TextInput
            maxLength={20}
            value={draft.unit ?? ""}
            onChange={(e) => set({ unit: e.target.value || null })}
            placeholder="hours, say"
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
        <FormulaField {...formula} vocabulary={vocabulary} fieldId={draft.id} />
      )}
      {isShown(draft.kind) && (
        <SourceFields
          draft={draft}
          isNew={isNew}
          fields={vocabulary.own.filter((f) => f.removedAt === null && f.id !== draft.id)}
          onChange={(source, kind) => set({ source, kind })}
        />
      )}
      {!isDerived(draft.kind) && (
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
  );
}
