"use client";
import { DateInput } from "@/ui/kit/date-input";
import { namedOptions, Select } from "@/ui/kit/select";
import { Field, TextInput, TextArea } from "@/ui/kit/field";
import { Button } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { useState, type FormEvent } from "react";
import type { MoveAnswers } from "@/core/item/command";
import { ITEM_FIELDS, itemField, type EditableField } from "@/core/item/fields";
import { OwnFieldInput } from "./own-field-input";
import type { OwnValue } from "@/core/item/own-field";
import type { Ask } from "@/core/workflow/refusal";

export interface Answers {
  answers: MoveAnswers;
  overrideReason?: string;
}

/** What was answered before, with what was answered since. */
export const withMore = (given: Answers, more: Answers): Answers => ({
  answers: { ...given.answers, ...more.answers },
  overrideReason: more.overrideReason ?? given.overrideReason,
});

interface Named {
  id: string;
  name: string;
  past?: boolean;
}

/** What can be chosen from: a board's or an item's view has all of it. */
export interface Names {
  people: Named[];
  teams: Named[];
  sprints: Named[];
  releases: Named[];
}

const isNumber = (field: string) =>
  field in ITEM_FIELDS && itemField(field as EditableField).editor.kind === "number";

/** A small form at the place of the move, that asks for exactly what the rules still need. */
export function AskForm({
  asks,
  names,
  verb,
  leave = "Leave it where it is",
  onAnswer,
  onCancel,
}: {
  asks: Ask[];
  names: Names;
  verb: string;
  /** What not answering is called. */
  leave?: string;
  onAnswer: (answers: Answers) => void;
  onCancel: () => void;
}) {
  const [values, setValues] = useState<Record<string, string>>(() =>
    Object.fromEntries(
      asks.map((ask) => [ask.field, ask.field === "outcome" ? ask.allowed[0] : ""]),
    ),
  );
  const [ticks, setTicks] = useState<string[]>([]);
  const [own, setOwn] = useState<Record<string, OwnValue | null>>({});
  const [missing, setMissing] = useState<string | null>(null);
  const set = (field: string, value: string) => setValues((v) => ({ ...v, [field]: value }));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const open = asks.find((ask) =>
      ask.field === "ticks"
        ? ask.policies.some((p) => !ticks.includes(p.id))
        : "own" in ask
          ? (own[ask.own.id] ?? null) === null
          : !values[ask.field]?.trim(),
    );
    if (open) return setMissing(open.field);
    const { overrideReason, ticks: _, ...rest } = values;
    const said = Object.fromEntries(
      Object.entries(rest)
        // What has been answered elsewhere meanwhile is not asked for any more.
        .filter(([field]) => asks.some((ask) => ask.field === field && !("own" in ask)))
        .map(([field, value]) => [field, isNumber(field) ? Number(value) : value]),
    );
    onAnswer({
      answers: {
        ...said,
        ...(ticks.length > 0 ? { ticks } : {}),
        ...(Object.keys(own).length > 0 ? { own } : {}),
      } as MoveAnswers,
      ...(overrideReason ? { overrideReason } : {}),
    });
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-2" aria-label={verb}>
      {asks.map((ask, i) =>
        ask.field === "ticks" ? (
          <fieldset
            key={ask.field}
            className="flex flex-col gap-1"
            aria-invalid={missing === "ticks"}
          >
            <legend className="mb-0.5 text-[12.5px] font-semibold">{ask.label}</legend>
            {ask.policies.map((policy) => (
              <label key={policy.id} className="flex items-start gap-2">
                <Check
                  className="mt-1"
                  checked={ticks.includes(policy.id)}
                  onChange={(on) =>
                    setTicks((t) => (on ? [...t, policy.id] : t.filter((id) => id !== policy.id)))
                  }
                />
                {policy.text}
              </label>
            ))}
            {missing === "ticks" && (
              <p className="text-[12.5px] font-semibold text-alarm">
                Every point has to be true before the move.
              </p>
            )}
          </fieldset>
        ) : "own" in ask ? (
          <div
            key={ask.field}
            className="flex flex-col gap-1 text-[12.5px] font-semibold"
            aria-invalid={missing === ask.field}
          >
            {ask.label}
            <OwnFieldInput
              field={ask.own}
              value={own[ask.own.id] ?? null}
              people={names.people}
              onChange={(value) => setOwn((o) => ({ ...o, [ask.own.id]: value }))}
            />
            {missing === ask.field && <p className="text-alarm">Fill it in first.</p>}
          </div>
        ) : (
          <Field key={ask.field} label={ask.label}>
            <AskField
              ask={ask}
              first={i === 0}
              invalid={missing === ask.field}
              value={values[ask.field] ?? ""}
              names={names}
              onChange={(value) => set(ask.field, value)}
            />
          </Field>
        ),
      )}
      <div className="flex justify-end gap-2">
        <Button look="quiet" small onClick={onCancel}>
          {leave}
        </Button>
        <Button type="submit" look="accent" small>
          {verb}
        </Button>
      </div>
    </form>
  );
}

function AskField({
  ask,
  first,
  invalid,
  value,
  names,
  onChange,
}: {
  ask: Exclude<Ask, { field: "ticks" } | { own: unknown }>;
  first: boolean;
  invalid: boolean;
  value: string;
  names: Names;
  onChange: (value: string) => void;
}) {
  const about = { id: `ask-${ask.field}`, value } as const;
  const typed = {
    ...about,
    autoFocus: first,
    "aria-invalid": invalid,
    onChange: (e: { target: { value: string } }) => onChange(e.target.value),
  };
  const choice = (options: readonly Named[], none: string | undefined) => (
    <Select
      {...about}
      autoFocus={first}
      invalid={invalid}
      options={[...(none ? [{ value: "", label: none }] : []), ...namedOptions(options)]}
      onChange={onChange}
    />
  );
  const plain = (words: readonly string[]) => words.map((w) => ({ id: w, name: w }));
  const long = (most: number) => <TextArea {...typed} rows={2} maxLength={most} />;
  if (ask.field === "outcome") return choice(plain(ask.allowed), undefined);
  if (ask.field === "reason" || ask.field === "comment" || ask.field === "overrideReason")
    return long(2_000);
  const { editor } = itemField(ask.field);
  switch (editor.kind) {
    case "choice": {
      if (typeof editor.options !== "string") return choice(plain(editor.options), editor.ask);
      const things = editor.options === "types" ? [] : names[editor.options];
      return choice(
        things.filter((thing) => thing.id !== ask.not),
        editor.ask,
      );
    }
    case "number":
      return <TextInput {...typed} type="number" min={0} step="any" />;
    case "date":
      return <DateInput {...about} aria-invalid={invalid} onChange={onChange} />;
    case "text":
      return editor.long ? long(50_000) : <TextInput {...typed} maxLength={200} />;
    case "terms":
    case "flag":
      // Neither can be demanded: they always say something.
      return null;
  }
}
