"use client";
import { X } from "lucide-react";
import type { ReactNode } from "react";
import type { FactName } from "@/core/condition/facts";
import { factLabel, factsOffered, type Vocabulary } from "@/core/condition/vocabulary";
import { counted as countedWords } from "@/core/formats/counted";
import type { CountedView } from "@/core/item/list/counted-values";
import { isCounted, MOST_COUNTED_FIELDS } from "@/core/item/list/listed";
import type { Look } from "@/core/view/look";
import { AddMenu } from "@/ui/kit/add-menu";
import { Button } from "@/ui/kit/button";
import { problemOf } from "@/ui/kit/request";
import { Select } from "@/ui/kit/select";
import { amountWords } from "./amount-words";
import { CountedFieldList } from "./counted-field";

/** The values of chosen fields with how many items have each; pressing one narrows to its items. */
export function CountedValues({
  look,
  change,
  vocabulary,
  zone,
  counted,
  error,
  onHeld,
  children,
}: {
  look: Pick<Look, "filter" | "sum" | "counts">;
  change: (parts: Partial<Pick<Look, "filter" | "counts">>) => void;
  vocabulary: Vocabulary;
  zone: string;
  /** Nothing until it is read. */
  counted: CountedView | undefined;
  error: Error | null;
  /** While something there is pointed at, nothing changes its place. */
  onHeld: (held: boolean) => void;
  /** What else narrows here. */
  children?: ReactNode;
}) {
  const offered = factsOffered(vocabulary).filter(isCounted);
  const free = offered.filter((fact) => !look.counts.includes(fact));
  const option = (fact: FactName) => ({ value: fact, label: factLabel(fact, vocabulary) });
  const words = amountWords(look.sum, vocabulary);
  return (
    <aside
      aria-label="Values with counts"
      aria-busy={counted === undefined}
      className="flex min-h-0 flex-1 flex-col gap-4 overflow-y-auto bg-sheet px-3 py-2"
      onPointerEnter={() => onHeld(true)}
      onPointerLeave={() => onHeld(false)}
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
                handle={{ look, change }}
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
      {children}
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
