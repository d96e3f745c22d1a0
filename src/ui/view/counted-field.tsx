"use client";
import { useState, type KeyboardEvent, type MouseEvent } from "react";
import type { CountedField, CountedValue } from "@/core/item/list/counted-values";
import { valueMeaning } from "@/core/item/list/counted-values";
import type { AskedAt } from "@/core/condition/facts";
import { isNarrowedTo, narrowedTo, narrowedToo } from "@/core/view/narrow";
import { TextButton } from "@/ui/kit/button";
import type { Look } from "@/core/view/look";

/** So many values of a field stand there before anybody asks for more. */
const FIRST_VALUES = 8;

const amount = (n: number) => n.toLocaleString("en", { maximumFractionDigits: 1 });

/** What is narrowed by pointing at values. */
export interface Narrowed {
  look: Pick<Look, "filter" | "sum">;
  change: (parts: Pick<Look, "filter">) => void;
}

/**
 * The values of one field: pressing one shows just its items, with Ctrl those of several. By
 * keys: arrows, Home and End go through them, Enter shows one, Space takes one more.
 */
export function CountedFieldList({
  handle,
  field: { fact, values, more },
  name,
  at,
}: {
  handle: Narrowed;
  field: CountedField;
  name: string;
  at: AskedAt;
}) {
  const { look, change } = handle;
  const [all, setAll] = useState(false);
  const [current, setCurrent] = useState<string | null | undefined>(undefined);
  const most = Math.max(1, ...values.map(({ count }) => count));
  const meaning = ({ key }: CountedValue) => valueMeaning(fact, key, at);
  const isChosen = (value: CountedValue) => isNarrowedTo(look.filter, fact, meaning(value));
  const shown = values.filter((value, i) => all || i < FIRST_VALUES || isChosen(value));
  const entered = shown.find(({ key }) => key === current) ?? shown[0];
  const narrow = (value: CountedValue, several: boolean) =>
    change({ filter: (several ? narrowedToo : narrowedTo)(look.filter, fact, meaning(value)) });
  const onKeyDown = (event: KeyboardEvent<HTMLElement>, value: CountedValue) => {
    const place = shown.indexOf(value);
    const to = {
      ArrowDown: Math.min(place + 1, shown.length - 1),
      ArrowUp: Math.max(place - 1, 0),
      Home: 0,
      End: shown.length - 1,
    }[event.key];
    if (to === undefined && event.key !== "Enter" && event.key !== " ") return;
    event.preventDefault();
    if (to === undefined) return narrow(value, event.key === " " || event.ctrlKey);
    event.currentTarget.parentElement?.querySelectorAll("button")[to]?.focus();
  };
  return (
    <>
      <div role="group" aria-label={name} className="flex flex-col">
        {shown.map((value) => (
          <button
            key={value.key ?? "\u2205"}
            type="button"
            aria-pressed={isChosen(value)}
            data-value={value.label}
            data-count={value.count}
            tabIndex={value === entered ? 0 : -1}
            className="counted-value"
            title={`${value.label}: ${value.count} items. Ctrl takes several.`}
            onClick={(event: MouseEvent) => narrow(value, event.ctrlKey || event.metaKey)}
            onFocus={() => setCurrent(value.key)}
            onKeyDown={(event) => onKeyDown(event, value)}
          >
            <span className="min-w-0 flex-1 truncate">{value.label}</span>
            {look.sum !== null && value.sum !== 0 && (
              <span className="figures text-[12px] text-ink-soft">{amount(value.sum)}</span>
            )}
            <span className="figures w-8 text-right">{amount(value.count)}</span>
            <span
              aria-hidden="true"
              className="counted-bar"
              style={{ width: `${(value.count / most) * 100}%` }}
            />
          </button>
        ))}
      </div>
      {values.length > shown.length && (
        <TextButton className="text-[12.5px]" onClick={() => setAll(true)}>
          {values.length - shown.length} more
        </TextButton>
      )}
      {all && values.length > FIRST_VALUES && (
        <TextButton className="text-[12.5px]" onClick={() => setAll(false)}>
          fewer
        </TextButton>
      )}
      {more > 0 && (
        <p className="text-[12.5px] text-ink-soft">{amount(more)} others have fewer items.</p>
      )}
    </>
  );
}
