"use client";
import { amountWords } from "@/core/time/amount";
import { useEffect, useRef, useState } from "react";
import { ageWords } from "@/core/flow/age";
import { TextArea } from "@/ui/kit/field";
import { tellProblem } from "@/ui/kit/notice";
import { daysWords, exact } from "@/ui/kit/time";
import { PromiseMark } from "@/ui/intake/promise-mark";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { ItemParent } from "./item-parent";
import type { ItemHandle } from "./use-item";

/** What an item is and how it stands: what it is under, its title, its state and age, its promises. */
export function ItemHead({ handle }: { handle: ItemHandle }) {
  const { view } = handle;
  const { item } = view;
  const { left } = view.time.all ?? view.time.own;
  return (
    <div className="min-w-0 flex-1">
      <ItemParent handle={handle} />
      <Title handle={handle} />
      <p className="mt-1 text-[13px] text-ink-soft">
        <b className="text-ink">{view.state.name}</b> since{" "}
        {exact(item.enteredStateAt, view.project.zone)}
        {item.outcome && <>, {item.outcome}</>}
        {item.clock.length > 0 && (
          <>
            {" · "}
            {item.stateKind === "finished"
              ? `took ${daysWords(view.age.age)}`
              : `age ${ageWords(view.age)}`}
            {view.againDays !== null && (
              <>, finished again after {daysWords(view.againDays)} in all</>
            )}
          </>
        )}
        {left !== null && item.stateKind !== "finished" && <> · {amountWords(left * 60)} left</>}
        {item.classOfService === "expedite" && <b className="text-ink"> · expedite</b>}
        {item.origin === "unplanned" && <em> · unplanned</em>}
      </p>
      {view.promise && (
        <p className="mt-1 flex flex-wrap items-center gap-x-3 text-[12.5px] text-ink-soft">
          {view.promise.target}:
          {view.promise.answer && (
            <PromiseMark state={view.promise.answer} zone={view.project.zone} what="answer" />
          )}
          {view.promise.resolve && (
            <PromiseMark state={view.promise.resolve} zone={view.project.zone} what="done" />
          )}
        </p>
      )}
    </div>
  );
}

function Title({ handle }: { handle: ItemHandle }) {
  const { view, edit } = handle;
  const [draft, setDraft] = useState<string | null>(null);
  const seen = useRef(view.item.version);
  const area = useRef<HTMLTextAreaElement>(null);
  const value = draft ?? view.item.title;
  useEffect(() => {
    // Browsers that fit a field to its words by themselves know better, also before a font is there.
    if (!area.current || CSS.supports("field-sizing", "content")) return;
    area.current.style.height = "auto";
    area.current.style.height = `${area.current.scrollHeight}px`;
  }, [value]);
  const store = () => {
    if (draft !== null && draft.trim() && draft !== view.item.title)
      edit({ title: draft }, seen.current)
        .catch(tellProblem)
        .finally(() => setDraft(null));
    else setDraft(null);
  };
  return (
    <div className="flex items-start gap-2">
      <span className="mt-1.5">
        <TypeGlyph typeId={view.item.typeId} size={18} />
      </span>
      <TextArea
        ref={area}
        aria-label="Title"
        rows={1}
        maxLength={300}
        readOnly={!view.rights.edit}
        plain
        className="!m-0 !min-h-0 resize-none overflow-hidden [field-sizing:content] !px-1 !py-0 font-display text-[18px] font-[650] leading-snug"
        value={value}
        onFocus={() => (seen.current = view.item.version)}
        onChange={(e) => setDraft(e.target.value.replaceAll("\n", " "))}
        onBlur={store}
        onKeyDown={(e) => {
          if (e.key === "Enter") {
            e.preventDefault();
            e.currentTarget.blur();
          }
        }}
      />
    </div>
  );
}
