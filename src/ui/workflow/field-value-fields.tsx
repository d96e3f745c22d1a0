"use client";
import { isDerived } from "@/core/item/own-field";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { FIELD_WORDS, itemField, SET_FIELDS, type SetField } from "@/core/item/fields";
import type { FieldValue } from "@/core/workflow/follow-ups/set-field";
import { OwnFieldInput } from "@/ui/item/own-field-input";
import { CommitNumber } from "@/ui/kit/commit-input";
import { namedOptions, Select, wordOptions, type Option } from "@/ui/kit/select";

/** The values that a field can be set to; an empty one clears it. */
function valuesOf(field: SetField, vocabulary: Vocabulary): Option[] {
  const { editor, followUp, schema } = itemField(field);
  const clear = schema.safeParse(null).success ? [{ value: "", label: "nothing" }] : [];
  if (followUp === "nothing" || editor.kind !== "choice") return clear;
  const offered =
    typeof editor.options === "string"
      ? namedOptions(vocabulary[editor.options])
      : wordOptions(editor.options);
  return [...offered, ...clear];
}

/** Which field is set, and to what. */
export function FieldValueFields({
  change,
  vocabulary,
  onChange,
}: {
  change: FieldValue;
  vocabulary: Vocabulary;
  onChange: (change: FieldValue) => void;
}) {
  const own = vocabulary.own.filter((x) => x.removedAt === null && !isDerived(x.kind));
  const set = (field: string, raw: string) =>
    onChange({ field, value: raw === "" ? null : raw } as FieldValue);
  const choose = (next: string) => {
    if (next.startsWith("own.")) onChange({ field: "own", fieldId: next.slice(4), value: null });
    else set(next, valuesOf(next as SetField, vocabulary)[0].value);
  };
  const options = [
    ...SET_FIELDS.map((x) => ({ value: x as string, label: FIELD_WORDS[x] })),
    ...own.map((x) => ({ value: `own.${x.id}`, label: x.name })),
  ];
  if (change.field === "own") {
    const { fieldId, value } = change;
    const field = vocabulary.own.find((x) => x.id === fieldId);
    return (
      <div className="grid grid-cols-2 gap-2">
        <Select label="Field" value={`own.${fieldId}`} options={options} onChange={choose} />
        {field && (
          <OwnFieldInput
            field={field}
            value={value}
            people={vocabulary.people}
            onChange={(next) => onChange({ field: "own", fieldId, value: next })}
          />
        )}
      </div>
    );
  }
  const { field, value } = change;
  return (
    <div className="grid grid-cols-2 gap-2">
      <Select label="Field" value={field} options={options} onChange={choose} />
      {itemField(field).editor.kind === "number" ? (
        <CommitNumber
          label="Value"
          value={value as number | null}
          disabled={false}
          step="any"
          onCommit={(n) => onChange({ field, value: n } as FieldValue)}
        />
      ) : (
        <Select
          label="Value"
          value={String(value ?? "")}
          options={valuesOf(field, vocabulary)}
          onChange={(raw) => set(field, raw)}
        />
      )}
    </div>
  );
}
