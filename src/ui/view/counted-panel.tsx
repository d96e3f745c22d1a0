"use client";
import { X } from "lucide-react";
import { useState } from "react";
import type { FactName } from "@/core/condition/facts";
import { factLabel, factsOffered } from "@/core/condition/vocabulary";
import { counted as countedWords } from "@/core/formats/counted";
import { isCounted, MOST_COUNTED_FIELDS } from "@/core/item/list/listed";
import { filterParts, samePart, withTurned } from "@/core/view/filter";
import { AddMenu } from "@/ui/kit/add-menu";
import { Button } from "@/ui/kit/button";
import { Divided } from "@/ui/kit/divided";
import { problemOf } from "@/ui/kit/request";
import { Select } from "@/ui/kit/select";
import { amountWords } from "./amount-words";
import { CountedFieldList } from "./counted-field";
import { useCounted } from "./use-counted";
import type { LookHandle } from "./use-look";

/** Left of the items: the values of chosen fields, each with how many of them have it. */
export function CountedPanel({ handle }: { handle: LookHandle }) {
  return handle.look.counts.length === 0 ? null : (
    <Divided label="Width of the counted values" part="left" storedAs="counted-width" first={212}>
      <Panel handle={handle} />
    </Divided>
  );
}

function Panel({ handle }: { handle: LookHandle }) {
  const { look, change, views } = handle;
  const { vocabulary, zone } = views;
  const [held, setHeld] = useState(false);
  const { counted, error } = useCounted(handle, held);
  const offered = factsOffered(vocabulary).filter(isCounted);
  const free = offered.filter((fact) => !look.counts.includes(fact));
  const option = (fact: FactName) => ({ value: fact, label: factLabel(fact, vocabulary) });
  const words = amountWords(look.sum, vocabulary);
  return (
    <aside
      aria-label="Values with counts"
      aria-busy={counted === undefined}
      className="flex min-h-0 flex-1 flex-col gap-4 overflow-y-auto bg-sheet px-3 py-2"
      onPointerEnter={() => setHeld(true)}
      onPointerLeave={() => setHeld(false)}
    >
      <p className="-mb-3 flex justify-end gap-2 pr-1 text-[11.5px] text-ink-soft">
        {look.sum !== null && <span>{factLabel(look.sum, vocabulary)}</span>}
        <span className="w-8 text-right">items</span>
      </p>
      {error && <p className="text-alarm">{problemOf(error).sentence}</p>}
      {look.counts.map((fact, i) => {
        const field = counted?.fields.find((known) => known.fact === fact);
        return (
          <section key={fact} aria-label={factLabel(fact, vocabulary)}>
            <div className="counted-head">
              <Select
                words
                label="Counted field"
                placeholder="a field that is gone"
                value={fact}
                options={[fact, ...free].filter((f) => offered.includes(f)).map(option)}
                onChange={(next) => change({ counts: look.counts.with(i, next as FactName) })}
              />
              <Button
                look="quiet"
                small
                aria-label={`Do not count by ${factLabel(fact, vocabulary)}`}
                onClick={() => change({ counts: look.counts.toSpliced(i, 1) })}
              >
                <X size={13} aria-hidden="true" />
              </Button>
            </div>
            {field && counted ? (
              <CountedFieldList
                handle={handle}
                field={field}
                name={factLabel(fact, vocabulary)}
                at={{ now: counted.at, zone }}
              />
            ) : (
              <p className="counted-waiting" />
            )}
          </section>
        );
      })}
      {look.counts.length < MOST_COUNTED_FIELDS && free.length > 0 && (
        <AddMenu
          label="Count another field"
          options={free.map(option)}
          onAdd={(fact) => change({ counts: [...look.counts, fact] })}
        />
      )}
      <NamedConditions handle={handle} counts={counted?.named} />
      {counted && (
        <p className="mt-auto border-t border-line pt-1.5 text-[12.5px] text-ink-soft">
          {countedWords(counted.total.count, "item")}
          {look.sum !== null &&
            ` · ${words.column({ items: 0, amount: counted.total.sum }, false) ?? ""}`}
        </p>
      )}
    </aside>
  );
}

/** The project's named conditions: of how many of the items each is true; one press narrows to it. */
function NamedConditions({ handle, counts }: { handle: LookHandle; counts?: readonly number[] }) {
  const { look, change, views } = handle;
  if (views.named.length === 0) return null;
  return (
    <section aria-label="Conditions of the project">
      <h3 className="counted-head text-[13px]">Conditions</h3>
      <div className="flex flex-col gap-1">
        {views.named.map(({ id, name, condition }, i) => (
          <button
            key={id}
            type="button"
            className="counted-condition"
            aria-pressed={filterParts(look.filter).some((part) => samePart(part, condition))}
            onClick={() => change({ filter: withTurned(look.filter, condition) })}
          >
            <span className="min-w-0 flex-1 truncate">{name}</span>
            <span className="figures">{counts?.[i]}</span>
          </button>
        ))}
      </div>
    </section>
  );
}
