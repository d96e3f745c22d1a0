"use client";
import { useState } from "react";
import { factLabel, factsOffered } from "@/core/condition/vocabulary";
import { counted } from "@/core/formats/counted";
import { foldCase } from "@/core/formats/fold-case";
import { isListed } from "@/core/item/list/listed";
import { isColumn, MOST_FIELDS, type ShownField } from "@/core/view/look";
import { Check } from "@/ui/kit/check";
import { TextInput } from "@/ui/kit/field";
import { ListEditor } from "@/ui/kit/list-editor";
import { Popover } from "@/ui/kit/popover";
import type { LookHandle } from "@/ui/view/use-look";

/** Which columns there are, in which order, and how high the rows stand. */
export function ColumnChooser({ handle }: { handle: LookHandle }) {
  const { look, change, views } = handle;
  const { vocabulary } = views;
  const [text, setText] = useState("");
  const { fields } = look;
  const label = (fact: ShownField["fact"]) => factLabel(fact, vocabulary);
  const shown = fields.map((field) => field.fact);
  const rest = factsOffered(vocabulary).filter(
    (fact) =>
      isColumn(fact) &&
      isListed(fact) &&
      !shown.includes(fact) &&
      foldCase(label(fact)).includes(foldCase(text.trim())),
  );
  return (
    <Popover
      label="Columns"
      className="max-h-[70vh] w-[340px] overflow-y-auto"
      trigger={
        <button type="button" className="in-words">
          {counted(fields.length, "column")}
        </button>
      }
    >
      <section aria-label="Columns that are shown">
        <h3 className="text-[13px]">Shown, from left to right</h3>
        <ListEditor
          label="Columns that are shown"
          items={fields}
          keyOf={({ fact }) => fact}
          nameOf={({ fact }) => label(fact)}
          row={({ fact }) => <span className="text-[13px]">{label(fact)}</span>}
          empty="Only key and title."
          onRemove={(at) => change({ fields: fields.toSpliced(at, 1) })}
          onMove={(from, to) =>
            change({ fields: fields.toSpliced(from, 1).toSpliced(to, 0, fields[from]) })
          }
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
          {rest.map((fact) => (
            <li key={fact}>
              <Check
                checked={false}
                disabled={fields.length >= MOST_FIELDS}
                onChange={() => change({ fields: [...fields, { fact, width: null }] })}
              >
                {label(fact)}
              </Check>
            </li>
          ))}
        </ul>
      </section>
      <Check
        className="mt-2 border-t border-line pt-2"
        checked={look.dense}
        onChange={(dense) => change({ dense })}
      >
        Narrow rows
      </Check>
    </Popover>
  );
}
