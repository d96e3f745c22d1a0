"use client";
import { useRef, type KeyboardEvent } from "react";
import {
  queueWords,
  reviewParts,
  type ReviewQueue,
  type ReviewRow,
  type UsualTime,
} from "@/core/ship/review-queue";
import { TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import { span } from "@/ui/kit/time";
import { ReviewLine } from "./review-line";
import { useReviews } from "./use-reviews";

/** What waits to be read by somebody who did not write it: mine, what nobody has, what others have. */
export function ReviewsScreen({ initial }: { initial: ReviewQueue }) {
  const handle = useReviews(initial);
  const { view } = handle;
  const parts = reviewParts(view.rows, view.me);
  const list = useRef<HTMLDivElement>(null);
  /** Arrows go from row to row, over the parts. */
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const on = (event.target as HTMLElement).closest<HTMLElement>(".review-row");
    if (!by || !on || !(event.target as HTMLElement).matches("[data-opens]")) return;
    event.preventDefault();
    const rows = [...list.current!.querySelectorAll<HTMLElement>(".review-row")];
    rows[rows.indexOf(on) + by]?.querySelector<HTMLElement>("[data-opens]")?.focus();
  };
  const part = (title: string, rows: readonly ReviewRow[], none: string | null) =>
    (rows.length > 0 || none !== null) && (
      <section aria-label={title} className="mb-6">
        <h2 className="mb-1 flex items-baseline gap-2 text-[15px]">
          {title} <span className="font-display text-ink-soft tabular-nums">{rows.length}</span>
          {rows.some(({ begun }) => begun) && (
            <span className="text-[12.5px] font-normal text-ink-soft">{queueWords(rows)}</span>
          )}
        </h2>
        {rows.length === 0 ? (
          <p className="text-ink-soft">{none}</p>
        ) : (
          <ul className="work-rows">
            {rows.map((row) => (
              <ReviewLine key={row.id} row={row} handle={handle} />
            ))}
          </ul>
        )}
      </section>
    );
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 flex-wrap items-center gap-x-4 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">Reviews</h1>
        <p className="text-ink-soft">
          {view.rows.length === 0 ? "nothing waits to be read" : queueWords(view.rows)}
        </p>
        <span className="flex-1" />
        <Usual words="first look after" of={view.firstLook} />
        <Usual words="on main after" of={view.merged} />
      </div>
      <div ref={list} className="min-h-0 flex-1 overflow-y-auto px-4 py-3" onKeyDown={onKey}>
        {part("Yours", parts.mine, "Nothing waits for you.")}
        {part("Nobody’s yet", parts.nobodys, null)}
        {part("With others", parts.others, null)}
        {view.rows.length === 0 && (
          <p className="text-ink-soft">
            What is handed to review stands here, with what is proposed for it and who could read
            it.
          </p>
        )}
      </div>
    </div>
  );
}

/** What is usual, with the items that it is known from. */
function Usual({ words, of }: { words: string; of: UsualTime | null }) {
  const { openBehind } = usePanel();
  if (of === null) return null;
  const told = `${words} ${span(of.median)}`;
  return (
    <p className="text-[13px] text-ink-soft" title={`Half of ${of.of} changes of the last 90 days`}>
      {words}{" "}
      <TextButton onClick={() => openBehind({ title: told, ids: of.ids })}>
        {span(of.median)}
      </TextButton>
    </p>
  );
}
