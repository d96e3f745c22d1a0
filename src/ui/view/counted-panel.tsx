"use client";
import { useState } from "react";
import { filterParts, samePart, withTurned } from "@/core/view/filter";
import { Divided } from "@/ui/kit/divided";
import { CountedValues } from "./counted-values";
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
  const [held, setHeld] = useState(false);
  const { counted, error } = useCounted(handle, held);
  return (
    <CountedValues
      look={look}
      change={change}
      vocabulary={views.vocabulary}
      zone={views.zone}
      counted={counted}
      error={error}
      onHeld={setHeld}
    >
      <NamedConditions handle={handle} counts={counted?.named} />
    </CountedValues>
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
