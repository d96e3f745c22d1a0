"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Condition } from "@/core/condition/condition";
import { counted } from "@/core/formats/counted";
import { pick } from "@/core/item/pick";
import { foldCase } from "@/core/formats/fold-case";
import { listContract } from "@/core/item/list/contract";
import { sameValue, withValueTurned, type ChoiceValue, type Chosen } from "@/core/view/filter";
import { choiceWords } from "@/core/view/filter-words";
import { countedAsked, countedOver } from "@/core/view/counted-look";
import { choicesOffered } from "@/core/view/suggest";
import { Check } from "@/ui/kit/check";
import { TextInput } from "@/ui/kit/field";
import { NoteBeside } from "@/ui/kit/option-notes";
import { queryOf } from "@/ui/kit/request";
import type { LookHandle } from "./use-look";

/** So many values are looked through by eye; with more one writes. */
const BY_EYE = 9;
const FIRST_TITLES = 3;

const idOf = (value: ChoiceValue): string => JSON.stringify(value);

/**
 * Any of the values of a field, each with how many items it would show; the number and the first
 * titles follow what is chosen.
 */
export function ChooseValues({
  handle,
  chosen,
  onChange,
}: {
  handle: LookHandle;
  chosen: Chosen;
  onChange: (part: Condition | null) => void;
}) {
  const { fact, values } = chosen;
  const { projectKey, look, views } = handle;
  const { vocabulary } = views;
  const [text, setText] = useState("");
  const params = { key: projectKey };
  const { data } = useQuery({
    ...queryOf(listContract.counted, {
      params,
      body: { ...countedAsked(look, []), fields: [countedOver(look, fact)] },
    }),
    placeholderData: (before) => before,
  });
  const { data: shown } = useQuery({
    ...queryOf(listContract.table, {
      params,
      body: {
        ...pick(countedAsked(look, []), ["board", "standing", "condition"]),
        limit: FIRST_TITLES,
        head: false,
      },
    }),
    placeholderData: (before) => before,
  });
  const counts = new Map(data?.fields[0].values.map(({ key, count }) => [key, count]));
  const offered = choicesOffered(fact, vocabulary).filter((value) =>
    foldCase(choiceWords(fact, value, vocabulary)).includes(foldCase(text.trim())),
  );
  const countOf = (value: ChoiceValue): number | null =>
    value === null || typeof value === "string" ? (counts.get(value) ?? 0) : null;
  return (
    <div className="flex flex-col gap-2">
      {choicesOffered(fact, vocabulary).length > BY_EYE && (
        <TextInput
          aria-label="Find a value"
          placeholder="find a value"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      )}
      <div role="group" aria-label="Any of these" className="max-h-[280px] overflow-y-auto">
        {offered.map((value) => (
          <div key={idOf(value)} className="flex items-center gap-2">
            <Check
              className="min-w-0 flex-1"
              checked={values.some((known) => sameValue(known, value))}
              onChange={() => onChange(withValueTurned(chosen, value))}
            >
              {choiceWords(fact, value, vocabulary)}
              {typeof value === "string" && <NoteBeside value={value} />}
            </Check>
            <span className="figures text-[12px] text-ink-soft">
              {data ? countOf(value) : null}
            </span>
          </div>
        ))}
        {offered.length === 0 && <p className="text-ink-soft">Nothing is called so.</p>}
      </div>
      <div className="border-t border-line pt-1.5 text-[12.5px]" aria-live="polite">
        <b>{data ? counted(data.total.count, "item") : "…"}</b>
        {shown?.rows.map(({ card }) => (
          <p key={card.id} className="truncate text-ink-soft">
            {card.title}
          </p>
        ))}
      </div>
    </div>
  );
}
