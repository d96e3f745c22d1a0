"use client";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import type { ScopeChange, SprintView } from "@/core/plan/sprint-view";
import { TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import { Size } from "@/ui/kit/sizes";
import { exact } from "@/ui/kit/time";

/** So many stand there before the others are asked for. */
const SHOWN = 8;

/** What came into a sprint while it ran, and what went out of it: when, by whom and how. */
export function ScopeChanges({ view }: { view: SprintView }) {
  const [all, setAll] = useState(false);
  const { scopeChanges, project } = view;
  if (scopeChanges.length === 0) return null;
  return (
    <section aria-label="Changes of its scope" className="sheet p-3">
      <h2 className="text-[15px]">Changes of its scope</h2>
      <ul className="scope-changes">
        {(all ? scopeChanges : scopeChanges.slice(0, SHOWN)).map((change, i) => (
          <Line key={`${change.at} ${i}`} change={change} zone={project.zone} />
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

function Line({
  change: { at, kind, who, how, item },
  zone,
}: {
  change: ScopeChange;
  zone: string;
}) {
  const { openItem } = usePanel();
  return (
    <li data-kind={kind}>
      <span className="text-ink-soft">{exact(at, zone)}</span>
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
    </li>
  );
}
