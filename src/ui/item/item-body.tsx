"use client";
import { ageWords } from "@/core/flow/age";
import { TextArea } from "@/ui/kit/field";
import { TextButton } from "@/ui/kit/button";
import { tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { daysWords, exact } from "@/ui/kit/time";
import { PromiseMark } from "@/ui/intake/promise-mark";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { useEffect, useRef, useState } from "react";
import { EditableText } from "./editable-text";
import { ItemAgreement } from "./item-agreement";
import { ItemBlockers } from "./item-blockers";
import { ItemChildren } from "./item-children";
import { ItemFields } from "./item-fields";
import { ItemLinks } from "./item-links";
import { ItemReports } from "./item-reports";
import { ItemComments, ItemHistory } from "./item-talk";
import { OwnFields } from "./own-fields";
import { MoveButtons } from "./move-buttons";
import type { ItemHandle } from "./use-item";
import { ZigzagFigure } from "./zigzag-figure";

/** Everything about an item, in the panel and on its page. On the page it stands in two columns. */
export function ItemBody({ handle, wide }: { handle: ItemHandle; wide: boolean }) {
  const { view, edit } = handle;
  const { item } = view;
  const { openItem } = usePanel();
  /** The next move that wants a word on how to test it. */
  const demanding = view.transitions.find((t) =>
    t.requirements.some((r) => r.kind === "filled" && r.field === "howToTest"),
  );
  const first = (
    <>
      <div>
        {view.parent && (
          <p className="text-[13px] text-ink-soft">
            under{" "}
            <TextButton onClick={() => openItem(view.parent!.key)}>
              {view.parent.key} {view.parent.title}
            </TextButton>
          </p>
        )}
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
          {view.remaining !== null && item.stateKind !== "finished" && (
            <> · {view.remaining} h remain</>
          )}
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
      {item.withdrawnAt !== null && (
        <p className="bg-signal-soft px-3 py-2 text-signal-ink">
          This item was taken back to the intake queue when its verdict was undone.
        </p>
      )}
      <MoveButtons handle={handle} />
      <ItemAgreement handle={handle} />
      <ItemBlockers handle={handle} />
      <section aria-label="Zigzag">
        <ZigzagFigure
          zigzag={view.zigzag}
          stateNames={view.stateNames}
          zone={view.project.zone}
          width={wide ? 640 : 396}
        />
      </section>
      <EditableText
        label="Description"
        value={item.description}
        empty="No description yet."
        mayEdit={view.rights.edit}
        version={item.version}
        onSave={(description, seen) => edit({ description }, seen)}
      />
      <EditableText
        label="How to test"
        value={item.howToTest ?? ""}
        empty={demanding ? `Not said yet, and “${demanding.verb}” needs it.` : "Not said yet."}
        mayEdit={view.rights.edit}
        version={item.version}
        onSave={(text, seen) => edit({ howToTest: text.trim() || null }, seen)}
      />
    </>
  );
  const second = (
    <>
      <ItemFields handle={handle} />
      <OwnFields handle={handle} />
      <ItemChildren handle={handle} />
      <ItemReports handle={handle} />
      <ItemLinks handle={handle} />
      <ItemComments handle={handle} />
      <ItemHistory handle={handle} />
    </>
  );
  if (wide)
    return (
      <div className="grid gap-8 lg:grid-cols-[minmax(0,1fr)_420px]">
        <div className="flex flex-col gap-5">{first}</div>
        <div className="flex flex-col gap-5">{second}</div>
      </div>
    );
  return (
    <div className="flex flex-col gap-4">
      {first}
      {second}
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
    if (!area.current) return;
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
        className="!m-0 resize-none overflow-hidden [field-sizing:content] !px-1 !py-0 font-display text-[18px] font-[650] leading-snug"
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
