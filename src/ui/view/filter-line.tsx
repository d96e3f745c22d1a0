"use client";
import { useState, type RefObject } from "react";
import type { Condition } from "@/core/condition/condition";
import {
  chosenIn,
  filterParts,
  isFiltering,
  samePart,
  withPart,
  withPartAt,
  withTurned,
} from "@/core/view/filter";
import { partText } from "@/core/view/filter-words";
import { TextButton } from "@/ui/kit/button";
import { FilterAdd } from "./filter-add";
import { FilterPart } from "./filter-part";
import { FilterWhole } from "./filter-whole";
import type { LookHandle } from "./use-look";

/** So many named conditions stand beside the filter. */
const MOST_AT_HAND = 3;

/** Where in a filter the part stands that a new one became, or became a part of. */
function partAbout(filter: Condition, added: Condition): number {
  const fact = chosenIn(added)?.fact;
  const at = filterParts(filter).findIndex((part) => fact && chosenIn(part)?.fact === fact);
  return at < 0 ? filterParts(filter).length - 1 : at;
}

/** What is left out, as parts that can each be changed; one press or key clears all of them. */
export function FilterLine({
  handle,
  shown,
  total,
  busy,
  field,
}: {
  handle: LookHandle;
  shown: number;
  total: number;
  busy: boolean;
  field: RefObject<HTMLInputElement | null>;
}) {
  const { look, change, views } = handle;
  const { vocabulary, named } = views;
  const parts = filterParts(look.filter);
  const scope = filterParts(look.scope);
  const filtering = isFiltering(look.filter);
  const [opened, setOpened] = useState<number | null>(null);
  const setFilter = (filter: typeof look.filter) => change({ filter });
  const others = named.filter(({ condition }) => !parts.some((part) => samePart(part, condition)));
  // With more parts the others are found by writing.
  const atHand = parts.length < 2 ? others.slice(0, MOST_AT_HAND) : [];
  return (
    <div
      role="group"
      aria-label="What is shown"
      aria-busy={busy}
      className="flex min-h-[30px] flex-wrap items-center gap-x-1.5 gap-y-1 text-[13px]"
    >
      <span className="whitespace-nowrap">
        <b className={filtering ? "text-signal-ink" : ""}>{shown.toLocaleString("en")}</b>
        <span className="text-ink-soft"> of {total.toLocaleString("en")}</span>
      </span>
      {scope.length > 0 && (
        <span className="text-ink-soft">
          about {scope.map((part) => partText(part, vocabulary, named)).join(" and ")}
        </span>
      )}
      {filtering && <span className="text-ink-soft">only</span>}
      {parts.map((part, i) => (
        <FilterPart
          key={i}
          handle={handle}
          part={part}
          open={opened === i}
          onOpenChange={(open) => setOpened(open ? i : null)}
          onChange={(next) => setFilter(withPartAt(look.filter, i, next))}
        />
      ))}
      <FilterAdd
        vocabulary={vocabulary}
        named={others}
        field={field}
        onAdd={(part, unfinished) => {
          const next = withPart(look.filter, part);
          setFilter(next);
          // Its value is chosen where the part then stands.
          if (unfinished) setOpened(partAbout(next, part));
        }}
      />
      {atHand.map(({ id, name, condition }) => (
        <button
          key={id}
          type="button"
          className="filter-named"
          onClick={() => setFilter(withTurned(look.filter, condition))}
        >
          {name}
        </button>
      ))}
      <FilterWhole handle={handle} />
      {filtering && (
        <TextButton onClick={handle.showAll} title="key: c">
          show all again
        </TextButton>
      )}
    </div>
  );
}
