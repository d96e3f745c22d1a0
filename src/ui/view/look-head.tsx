"use client";
import type { ReactNode, RefObject } from "react";
import { ARRANGEMENTS } from "@/core/view/look";
import { Select, wordOptions } from "@/ui/kit/select";
import { CountsButton } from "./counts-button";
import { FilterLine } from "./filter-line";
import { KeepLine } from "./keep-line";
import { LookNotes } from "./look-notes";
import { LevelSwitch } from "./level-switch";
import type { LookHandle } from "./use-look";
import { ViewSwitch } from "./view-switch";

/**
 * Above what is looked at: which view it is, how it is arranged and what it leaves out, always as a
 * sentence.
 */
export function LookHead({
  handle,
  shown,
  total,
  busy,
  filterField,
  words,
  children,
}: {
  handle: LookHandle;
  /** How many items are shown, of how many. */
  shown: number;
  total: number;
  /** Whether the number is of a moment ago, until the new one is there. */
  busy: boolean;
  filterField: RefObject<HTMLInputElement | null>;
  /** How this arrangement is made, as the rest of the sentence. */
  words: ReactNode;
  /** What can be brought to it. */
  children?: ReactNode;
}) {
  const { look, change } = handle;
  return (
    <div className="shrink-0 px-4 pt-2 pb-1.5">
      <div className="flex min-h-[32px] items-center gap-x-4 max-sm:flex-wrap">
        <ViewSwitch handle={handle} />
        <div className="look-words flex min-w-0 flex-wrap items-center gap-x-1.5 text-[13.5px] text-ink-soft">
          <span>as</span>
          <Select
            label="Arranged as"
            words
            value={look.arrangement}
            options={wordOptions(ARRANGEMENTS)}
            onChange={(arrangement) => change({ arrangement })}
          />
          <LevelSwitch handle={handle} />
          {words}
        </div>
        <span className="flex-1" />
        <CountsButton handle={handle} />
        {children}
      </div>
      <div className="flex items-start gap-3">
        <div className="min-w-0 flex-1">
          <FilterLine handle={handle} shown={shown} total={total} busy={busy} field={filterField} />
        </div>
        <KeepLine handle={handle} />
      </div>
      <LookNotes notes={handle.asked.notes} />
    </div>
  );
}
