"use client";
import { useState } from "react";
import type { DesignView } from "@/core/workflow/design-view";
import { TextButton } from "@/ui/kit/button";
import { exact } from "@/ui/kit/time";

const SHOWN = 5;

/** What limits were, from when on, and who said so; the latest first. */
export function LimitHistory({ view: { limitChanges, project } }: { view: DesignView }) {
  const [all, setAll] = useState(false);
  if (limitChanges.length === 0) return null;
  const shown = all ? limitChanges : limitChanges.slice(0, SHOWN);
  return (
    <section aria-label="Changes of limits">
      <h2 className="text-[15px]">What changed</h2>
      <ul className="text-[13px]">
        {shown.map(({ id, name, words, at, by }) => (
          <li key={id} className="flex gap-3 border-t border-line py-1">
            <span className="w-44 shrink-0 text-ink-soft">{exact(at, project.zone)}</span>
            <span className="flex-1">
              <b>{name}</b>: {words}
            </span>
            {by && <span className="text-ink-soft">{by}</span>}
          </li>
        ))}
      </ul>
      {limitChanges.length > shown.length && (
        <TextButton className="mt-1 text-[13px]" onClick={() => setAll(true)}>
          Show all {limitChanges.length}
        </TextButton>
      )}
    </section>
  );
}
