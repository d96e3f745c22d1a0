"use client";
import { useState, type ReactNode } from "react";
import type { FactName } from "@/core/condition/facts";
import { factLabel, factsOffered } from "@/core/condition/vocabulary";
import { counted } from "@/core/formats/counted";
import { foldCase } from "@/core/formats/fold-case";
import { isListed } from "@/core/item/list/listed";
import { isColumn, MOST_FIELDS } from "@/core/view/look";
import { Check } from "@/ui/kit/check";
import { TextInput } from "@/ui/kit/field";
import { ListEditor } from "@/ui/kit/list-editor";
import { Popover } from "@/ui/kit/popover";
import type { LookHandle } from "@/ui/view/use-look";

/** Which columns a table has, in which order, and how high its rows stand. */
export function TableColumns({ handle }: { handle: LookHandle }) {
  const { look, change, views } = handle;
  const { vocabulary } = views;
  const { fields } = look;
  const wide = (fact: FactName) =>
    fields.find((field) => field.fact === fact) ?? { fact, width: null };
  return (
    <ColumnChooser
      shown={fields.map(({ fact }) => fact)}
      offered={factsOffered(vocabulary).filter((fact) => isColumn(fact) && isListed(fact))}
      most={MOST_FIELDS}
      nameOf={(fact) => factLabel(fact, vocabulary)}
      onChange={(next) => change({ fields: next.map(wide) })}
    >
      <Check
        className="mt-2 border-t border-line pt-2"
        checked={look.dense}
        onChange={(dense) => change({ dense })}
      >
        Narrow rows
      </Check>
    </ColumnChooser>
  );
}

/** Which columns there are, in which order. */
export function ColumnChooser<C extends string>({
  shown,
  offered,
  most,
  nameOf,
  onChange,
  children,
}: {
  /** From left to right. */
  shown: readonly C[];
  offered: readonly C[];
  most: number;
  nameOf: (column: C) => string;
  onChange: (next: C[]) => void;
  children?: ReactNode;
}) {
  const [text, setText] = useState("");
  const rest = offered.filter(
    (column) => !shown.includes(column) && foldCase(nameOf(column)).includes(foldCase(text.trim())),
  );
  return (
    <Popover
      label="Columns"
      className="max-h-[70vh] w-[340px] overflow-y-auto"
      trigger={
        <button type="button" className="in-words">
          {counted(shown.length, "column")}
        </button>
      }
    >
      <section aria-label="Columns that are shown">
        <h3 className="text-[13px]">Shown, from left to right</h3>
        <ListEditor
          label="Columns that are shown"
          items={shown}
          keyOf={(column) => column}
          nameOf={nameOf}
          row={(column) => <span className="text-[13px]">{nameOf(column)}</span>}
          empty="Only key and title."
          onRemove={(at) => onChange(shown.toSpliced(at, 1))}
          onMove={(from, to) => onChange(shown.toSpliced(from, 1).toSpliced(to, 0, shown[from]))}
        />
      </section>
      <section aria-label="Columns that are not shown" className="mt-2 border-t border-line pt-2">
        <TextInput
          aria-label="Find a field"
          placeholder="find a field"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <ul className="mt-1 max-h-[240px] overflow-y-auto">
          {rest.map((column) => (
            <li key={column}>
              <Check
                checked={false}
                disabled={shown.length >= most}
                onChange={() => onChange([...shown, column])}
              >
                {nameOf(column)}
              </Check>
            </li>
          ))}
        </ul>
      </section>
      {children}
    </Popover>
  );
}
