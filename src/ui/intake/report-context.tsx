"use client";
import { TextButton } from "@/ui/kit/button";
import { useState, type ReactNode } from "react";
import type { DeskView, ReportView } from "@/core/intake/desk-view";
import { ALIKE, likenessWords } from "@/core/intake/very-alike";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { goesOutWords } from "@/core/plan/goes-out";
import { usePanel } from "@/ui/kit/panel-context";
import { standsAt } from "./stands-at";
import { ago } from "@/ui/kit/time";

/** So many are shown, however little alike they are. */
const FEWEST_SHOWN = 3;

/**
 * What is known around a report: what looks like it and why, what went live lately, who sent it,
 * and how much everybody has on hand.
 */
export function ReportContext({
  view,
  desk,
  mayJudge,
  onMerge,
  onOpen,
}: {
  view: ReportView;
  desk: DeskView;
  mayJudge: boolean;
  onMerge: (itemId: string) => void;
  onOpen: (reportId: string) => void;
}) {
  return (
    <div className="flex flex-col gap-4 px-4 py-4">
      <LooksLike view={view} desk={desk} mayJudge={mayJudge} onMerge={onMerge} />
      {view.similarReports.length > 0 && (
        <Part title="Reports alike">
          <ol>
            {view.similarReports.map((r) => (
              <li key={r.id} className="border-b border-line py-2">
                <div className="flex items-baseline gap-2">
                  <ReportLink report={r} onOpen={onOpen} />
                  <Likeness score={r.score} />
                  <span className="flex-1" />
                  <span className="text-[12.5px] text-ink-soft">
                    {r.status === "unjudged" ? "in the queue" : r.status}
                  </span>
                </div>
                <p className="leading-snug">{r.title}</p>
                <p className="text-[12.5px] text-ink-soft">{r.reasons.join("; ")}</p>
              </li>
            ))}
          </ol>
        </Part>
      )}
      {view.deployed.length > 0 && (
        <Part title="Went live in the last two weeks">
          <ul>
            {view.deployed.map((d) => (
              <li
                key={d.key}
                className="grid grid-cols-[auto_1fr_auto] items-baseline gap-x-2 py-1"
              >
                <KeyLink itemKey={d.key} title={d.title} />
                <span className="text-[12.5px] font-semibold text-signal-ink whitespace-nowrap">
                  {d.samePlace && "same place"}
                </span>
                <span className="text-[12.5px] whitespace-nowrap text-ink-soft">
                  {ago(d.at, desk.now)}
                </span>
                <span className="col-span-full truncate" title={d.title}>
                  {d.title}
                </span>
              </li>
            ))}
          </ul>
        </Part>
      )}
      {view.earlier.length > 0 && (
        <Part title="From the same person">
          <ul>
            {view.earlier.map((r) => (
              <li key={r.id} className="flex items-baseline gap-2 py-1">
                <ReportLink report={r} onOpen={onOpen} />
                <span className="min-w-0 flex-1 truncate">{r.title}</span>
                <span className="text-[12.5px] text-ink-soft">{r.status}</span>
              </li>
            ))}
          </ul>
        </Part>
      )}
      <Part title="On hand now">
        <ul className="grid grid-cols-2 gap-x-4">
          {desk.people.map((p) => (
            <li key={p.id} className="flex items-baseline justify-between gap-2 py-0.5 text-[13px]">
              <span className="truncate">{p.name}</span>
              <Load load={p.load} limit={p.limit} />
            </li>
          ))}
        </ul>
      </Part>
    </div>
  );
}

/** How many items somebody has in work, against what the team has agreed on. */
function Load({ load, limit }: { load: number; limit: number | null }) {
  const full = limit !== null && load >= limit;
  return (
    <span
      className={`whitespace-nowrap tabular-nums ${full ? "font-semibold text-signal-ink" : "text-ink-soft"}`}
      title={full ? "has as much as was agreed on" : undefined}
    >
      {limit === null ? load : `${load} of ${limit}`}
    </span>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h2 className="text-[14px]">{title}</h2>
      {children}
    </section>
  );
}

/** How alike two texts are, as a bar and in words. */
function Likeness({ score }: { score: number }) {
  return (
    <span
      className="inline-flex items-center gap-1.5 text-[12.5px] text-ink-soft"
      title={`likeness ${score.toFixed(2)} of 1`}
    >
      <span className="h-1.5 w-12 bg-line" aria-hidden="true">
        <span
          className="block h-full bg-accent"
          style={{ width: `${Math.round(Math.min(1, score) * 100)}%` }}
        />
      </span>
      {likenessWords(score)}
    </span>
  );
}

/** The items that look most like the report; the nearest first, the others when asked for. */
function LooksLike({
  view,
  desk: { now, project },
  mayJudge,
  onMerge,
}: {
  view: ReportView;
  desk: DeskView;
  mayJudge: boolean;
  onMerge: (itemId: string) => void;
}) {
  const [all, setAll] = useState(false);
  const today = isoDate(dayNumber(now, project.zone));
  const near = view.similar.filter((s, i) => i < FEWEST_SHOWN || s.score >= ALIKE);
  return (
    <Part title="Looks most like">
      {view.similar.length === 0 && <p className="text-ink-soft">No item looks enough like it.</p>}
      <ol>
        {(all ? view.similar : near).map((s) => (
          <li
            key={s.id}
            className={`border-b border-line py-2 ${s.score >= ALIKE ? "-mx-2 bg-sheet px-2 shadow-[inset_3px_0_0_var(--accent)]" : ""}`}
          >
            <div className="flex items-baseline gap-2">
              <KeyLink itemKey={s.key} title={s.title} />
              <Likeness score={s.score} />
              <span className="flex-1" />
              <span className="text-[12.5px] text-ink-soft">{standsAt(s)}</span>
            </div>
            <p className="leading-snug">{s.title}</p>
            {s.goesOut && <p className="text-[12.5px]">{goesOutWords(s.goesOut, today)}</p>}
            <p className="flex items-end justify-between gap-2 text-[12.5px] text-ink-soft">
              <span>{s.reasons.join("; ")}</span>
              {mayJudge && (
                <TextButton
                  className="whitespace-nowrap"
                  aria-label={`Merge into it: ${s.key} ${s.title}`}
                  onClick={() => onMerge(s.id)}
                >
                  Merge into it
                </TextButton>
              )}
            </p>
          </li>
        ))}
      </ol>
      {near.length < view.similar.length && (
        <TextButton className="mt-1 text-[13px]" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? "Only the nearest" : `${view.similar.length - near.length} more, less alike`}
        </TextButton>
      )}
    </Part>
  );
}

/** A report's reference, which opens it, whatever became of it. */
function ReportLink({
  report: { id, reference, title },
  onOpen,
}: {
  report: { id: string; reference: string; title: string };
  onOpen: (reportId: string) => void;
}) {
  return (
    <TextButton
      className="key !text-accent"
      aria-label={`${reference} ${title}, open it`}
      onClick={() => onOpen(id)}
    >
      {reference}
    </TextButton>
  );
}

/** An item's key, which opens it. */
function KeyLink({ itemKey, title }: { itemKey: string; title: string }) {
  const { openItem } = usePanel();
  return (
    <TextButton
      className="key !text-accent"
      aria-label={`${itemKey} ${title}, open it`}
      onClick={() => openItem(itemKey)}
    >
      {itemKey}
    </TextButton>
  );
}
