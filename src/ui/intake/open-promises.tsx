"use client";

import type { PromisesView } from "@/core/intake/promises-view";
import { PromiseMark } from "@/ui/intake/promise-mark";
import { TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import { TypeGlyph } from "@/ui/kit/type-glyph";

/** What is open and promised, what is due next first. */
export function OpenPromises({ view }: { view: PromisesView }) {
  const { openItem } = usePanel();
  const nameOf = (id: string | null) => view.people.find((p) => p.id === id)?.name ?? "nobody yet";
  return (
    <section aria-label="Open promises" className="min-w-0">
      {view.open.length === 0 && (
        <p className="py-6 text-ink-soft">
          {view.rules.targets.length === 0
            ? "Nothing is promised yet. A promise says how soon a first answer comes, and how soon it is done."
            : "Nothing that is open has a promise."}
        </p>
      )}
      {view.open.length > 0 && (
        <p aria-hidden="true" className="flex items-center gap-2 pb-1 text-[12px] text-ink-soft">
          <span className="min-w-0 flex-1">Open, what is due next first</span>
          <span className="w-20">State</span>
          <span className="hidden w-24 2xl:inline">Who has it</span>
          <span className="w-[176px]">Answer</span>
          <span className="w-[176px]">Done</span>
        </p>
      )}
      <ol>
        {view.open.map((r) => (
          <li
            key={r.itemId}
            className="flex items-center gap-2 border-t border-line py-1"
            data-promise={r.key}
          >
            <TypeGlyph typeId={r.typeId} />
            <TextButton
              className="key w-[74px] text-left !text-accent"
              onClick={() => openItem(r.key)}
            >
              {r.key}
            </TextButton>
            <span className="min-w-0 flex-1 truncate">{r.title}</span>
            <span className="w-20 truncate text-[12.5px] text-ink-soft">{r.stateName}</span>
            <span className="hidden w-24 truncate text-[12.5px] text-ink-soft 2xl:inline">
              {nameOf(r.assigneeId)}
            </span>
            <span className="w-[176px]">
              {r.answer && <PromiseMark state={r.answer} zone={view.project.zone} reads="answer" />}
            </span>
            <span className="w-[176px]">
              {r.resolve && <PromiseMark state={r.resolve} zone={view.project.zone} reads="done" />}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
