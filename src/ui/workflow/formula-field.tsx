"use client";
import { useRef } from "react";
import { formulaNumbers, type parseFormula } from "@/core/condition/formula-text";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { AddMenu } from "@/ui/kit/add-menu";
import { Field, TextInput } from "@/ui/kit/field";

/** What a computed number is made of; what is wrong is said with its place. */
export function FormulaField({
  text,
  problem,
  vocabulary,
  fieldId,
  onChange,
}: {
  text: string;
  problem: ReturnType<typeof parseFormula>["problem"];
  vocabulary: Vocabulary;
  /** The field that is computed: it is not made of itself. */
  fieldId: string;
  onChange: (text: string) => void;
}) {
  const field = useRef<HTMLInputElement>(null);
  /** Puts a number in at the cursor, apart from what stands there. */
  const insert = (number: string) => {
    const { selectionStart, selectionEnd } = field.current!;
    const [from, to] = [selectionStart ?? text.length, selectionEnd ?? text.length];
    const before = text.slice(0, from).replace(/([^\s(])$/, "$1 ");
    const after = text.slice(to).replace(/^([^\s)])/, " $1");
    onChange(before + number + after);
    const cursor = before.length + number.length;
    // Once the list of fields has closed.
    setTimeout(() => {
      field.current?.focus();
      field.current?.setSelectionRange(cursor, cursor);
    }, 50);
  };
  const numbers = formulaNumbers(vocabulary).filter((n) => n.field !== `own.${fieldId}`);
  return (
    <div className="flex flex-col gap-0.5 text-[12px]">
      <Field label="Formula">
        <TextInput
          ref={field}
          className="key !font-normal !text-ink"
          aria-invalid={problem !== null && text !== ""}
          value={text}
          onChange={(e) => onChange(e.target.value)}
          maxLength={1_000}
          placeholder="item.estimate * 2"
          spellCheck={false}
        />
      </Field>
      {problem && text !== "" && (
        <span role="alert" className="text-alarm">
          Character {problem.at + 1}: {problem.sentence}
        </span>
      )}
      <AddMenu
        label="Insert a field"
        takesFocus
        options={numbers.map(({ text: value, label }) => ({ value, label }))}
        onAdd={insert}
      />
      <span className="text-ink-soft">
        Numbers of an item, also by their own names, + − * / and brackets. Without one of its
        numbers there is no value.
      </span>
    </div>
  );
}
