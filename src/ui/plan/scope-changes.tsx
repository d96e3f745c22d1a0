"use client";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import type { ScopeChange, SprintView } from "@/core/plan/sprint-view";
import { LONGEST_REASON } from "@/core/plan/scope-reason";
import { sayWhy } from "@/ui/item/ask-why";
import { TextButton } from "@/ui/kit/button";
import { TextInput } from "@/ui/kit/field";
import { tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { Size } from "@/ui/kit/sizes";
import { exact } from "@/ui/kit/time";

/** So many stand there before the others are asked for. */
const SHOWN = 8;

/** What came into a sprint while it ran, and what went out of it: when, by whom and how. */
export function ScopeChanges({ view }: { view: SprintView }) {
  const [all, setAll] = useState(false);
  const { scopeChanges } = view;
  const unsaid = scopeChanges.filter(({ asked, why }) => asked && why === null).length;
  if (scopeChanges.length === 0) return null;
  return (
    <section aria-label="Changes of its scope" className="sheet p-3">
      <h2 className="text-[15px]">
        Changes of its scope{" "}
        {unsaid > 0 && (
          <span className="font-sans text-[13px] font-normal text-signal-ink">
            {unsaid} without a reason
          </span>
        )}
      </h2>
      <ul className="scope-changes">
        {(all ? scopeChanges : scopeChanges.slice(0, SHOWN)).map((change, i) => (
          <Line key={`${change.at} ${i}`} change={change} view={view} />
        ))}
      </ul>
      {!all && scopeChanges.length > SHOWN && (
        <TextButton className="text-[13px]" onClick={() => setAll(true)}>
          All {counted(scopeChanges.length, "change")}
        </TextButton>
      )}
    </section>
  );
}

function Line({ change, view }: { change: ScopeChange; view: SprintView }) {
  const { openItem } = usePanel();
  const { at, kind, who, how, item } = change;
  return (
    <li data-kind={kind}>
      <span className="text-ink-soft">{exact(at, view.project.zone)}</span>
      <b className={kind === "added" ? "" : "text-signal-ink"}>{kind}</b>
      {item ? (
        <button
          type="button"
          className="flex min-h-6 min-w-0 items-center gap-1.5 text-left hover:underline"
          onClick={() => openItem(item.key)}
        >
          <span className="key text-[11.5px]">{item.key}</span>
          <span className="truncate">{item.title}</span>
        </button>
      ) : (
        <span className="italic text-ink-soft">an item outside your view</span>
      )}
      <span className="text-right">{item && <Size of={item.points} />}</span>
      <span className="truncate text-ink-soft">
        {[who ?? "by itself", how].filter(Boolean).join(", ")}
      </span>
      <Why change={change} view={view} />
    </li>
  );
}

/** Why it came or went: said, or asked for. */
function Why({
  change: { item, why, seq, asked },
  view,
}: {
  change: ScopeChange;
  view: SprintView;
}) {
  const { project, sprint, rights } = view;
  if (!item || (!asked && why === null)) return <span />;
  if (!rights.edit) return <span className="truncate">{why ?? "no reason said"}</span>;
  const say = (words: string) =>
    sayWhy(project.key, { itemId: item.id, seq, sprintId: sprint.id }, words).catch(tellProblem);
  return (
    <WhyField
      key={why ?? ""}
      why={why ?? ""}
      label={`Why ${item.key} came or went`}
      onSay={(words) => void say(words)}
    />
  );
}

/** The reason, written where it stands: Enter or leaving it keeps it. */
function WhyField({
  why,
  label,
  onSay,
}: {
  why: string;
  label: string;
  onSay: (words: string) => void;
}) {
  const [words, setWords] = useState(why);
  const keep = () => {
    if (words.trim() !== why) onSay(words.trim());
  };
  return (
    <TextInput
      className="!min-h-7 !py-0.5 text-[13px]"
      aria-label={label}
      placeholder="no reason said: why?"
      maxLength={LONGEST_REASON}
      value={words}
      onChange={(event) => setWords(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Enter") keep();
        if (event.key === "Escape") setWords(why);
      }}
    />
  );
}
