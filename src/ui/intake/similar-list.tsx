"use client";
import { usePanel } from "@/ui/kit/panel-context";
import type { ReportView } from "./types";

/** What is known around a report: items and reports that look like it, with the words they share. */
export function SimilarList({ view, mayJudge, onMerge }: { view: ReportView; mayJudge: boolean; onMerge: (itemId: string) => void }) {
  const { openItem } = usePanel();
  return (
    <div className="flex flex-col gap-4 px-4 py-4">
      <div>
        <h2 className="text-[14px]">Looks most like</h2>
        {view.similar.length === 0 && <p className="text-ink-soft">No item shares enough words with it.</p>}
        <ol>
          {view.similar.map((s) => (
            <li key={s.id} className="border-b border-line py-2">
              <div className="flex items-baseline gap-2">
                <button type="button" className="link key !text-accent" onClick={() => openItem(s.key)}>
                  {s.key}
                </button>
                <Likeness score={s.score} />
                <span className="flex-1" />
                <span className="text-[12.5px] text-ink-soft">{s.finished ? (s.outcome ?? "finished") : s.stateName}</span>
              </div>
              <p className="leading-snug">{s.title}</p>
              <p className="flex items-center justify-between gap-2 text-[12.5px] text-ink-soft">
                <span>both say: {s.words.join(", ")}</span>
                {mayJudge && (
                  <button type="button" className="link whitespace-nowrap" onClick={() => onMerge(s.id)}>
                    Merge into it
                  </button>
                )}
              </p>
            </li>
          ))}
        </ol>
      </div>
      {view.similarReports.length > 0 && (
        <div>
          <h2 className="text-[14px]">Reports alike</h2>
          <ol>
            {view.similarReports.map((r) => (
              <li key={r.id} className="border-b border-line py-2">
                <div className="flex items-baseline gap-2">
                  <span className="key">{r.reference}</span>
                  <Likeness score={r.score} />
                  <span className="flex-1" />
                  <span className="text-[12.5px] text-ink-soft">{r.status === "unjudged" ? "in the queue" : r.status}</span>
                </div>
                <p className="leading-snug">{r.title}</p>
                <p className="text-[12.5px] text-ink-soft">both say: {r.words.join(", ")}</p>
              </li>
            ))}
          </ol>
        </div>
      )}
      {view.earlier.length > 0 && (
        <div>
          <h2 className="text-[14px]">From the same person</h2>
          <ul>
            {view.earlier.map((r) => (
              <li key={r.id} className="flex gap-2 py-1">
                <span className="key">{r.reference}</span>
                <span className="flex-1 truncate">{r.title}</span>
                <span className="text-[12.5px] text-ink-soft">{r.status}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
    </div>
  );
}

/** How alike two texts are, as a bar and in words. */
function Likeness({ score }: { score: number }) {
  const words = score > 0.4 ? "very alike" : score > 0.25 ? "alike" : "a little alike";
  return (
    <span className="inline-flex items-center gap-1.5 text-[12.5px] text-ink-soft" title={`word similarity ${score.toFixed(2)} of 1`}>
      <span className="h-1.5 w-12 bg-line" aria-hidden="true">
        <span className="block h-full bg-accent" style={{ width: `${Math.round(Math.min(1, score) * 100)}%` }} />
      </span>
      {words}
    </span>
  );
}
