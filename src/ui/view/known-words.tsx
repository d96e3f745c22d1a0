"use client";
import { useState } from "react";
import { operatorsFor, type Condition } from "@/core/condition/condition";
import { printCel } from "@/core/condition/cel-print";
import type { FactName } from "@/core/condition/facts";
import { foldCase } from "@/core/formats/fold-case";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { firstValue } from "@/ui/condition/query";
import { TextInput } from "@/ui/kit/field";

/** A condition about a fact, to show how it is written. */
function example(fact: FactName, vocabulary: Vocabulary): string {
  const [op] = operatorsFor(fact);
  const condition: Condition = {
    kind: "compare",
    fact,
    op,
    value: firstValue(fact, op, vocabulary),
  };
  return printCel(condition, vocabulary).replace('"…"', '"fog"');
}

/** What is asked of what stands under and above an item. */
const AROUND = [
  { label: "at least one child", written: "children.exists(child, child.blocked)" },
  { label: "all children", written: 'children.all(child, child.state_kind == "finished")' },
  { label: "what it stands under", written: 'parent.exists(above, above.priority == "high")' },
];

/** All fields that a filter knows, each with an example in the text form. */
export function KnownWords({
  words,
  vocabulary,
}: {
  words: readonly { fact: FactName; label: string }[];
  vocabulary: Vocabulary;
}) {
  const [text, setText] = useState("");
  const asked = (label: string) => foldCase(label).includes(foldCase(text.trim()));
  const found = words.filter(({ label }) => asked(label));
  return (
    <section aria-label="Words it knows" className="w-[290px] shrink-0 border-l border-line pl-3">
      <h3 className="text-[13px]">Words it knows</h3>
      <TextInput
        aria-label="Find a word"
        placeholder="find a word"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <dl className="mt-1.5 max-h-[300px] overflow-y-auto text-[12.5px]">
        {AROUND.filter(({ label }) => asked(label)).map(({ label, written }) => (
          <div key={label} className="py-0.5">
            <dt className="font-semibold">{label}</dt>
            <dd className="key break-words whitespace-normal text-ink-soft">{written}</dd>
          </div>
        ))}
        {found.map(({ fact, label }) => (
          <div key={fact} className="py-0.5">
            <dt className="font-semibold">{label}</dt>
            <dd className="key break-words whitespace-normal text-ink-soft">
              {example(fact, vocabulary)}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
