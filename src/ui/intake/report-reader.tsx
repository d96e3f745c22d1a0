"use client";
import { VERDICT_PAST } from "@/core/intake/verdict";
import { ago, exact } from "@/ui/kit/time";
import type { ReportView } from "./types";

/** A report as it was written. Its text is shown as text, whatever is in it. */
export function ReportReader({ view, zone, now, mayJudge, onUndo }: { view: ReportView; zone: string; now: number; mayJudge: boolean; onUndo: (verdictId: string) => void }) {
  const { report } = view;
  const standing = view.verdicts.find((v) => v.undoneAt === null);
  return (
    <article className="flex flex-col gap-4 px-5 py-4">
      <header>
        <h2 className="text-[18px] leading-snug">{report.title}</h2>
        <p className="text-[13px] text-ink-soft">
          <span className="key">{report.reference}</span> · <time title={exact(report.receivedAt, zone)}>{ago(report.receivedAt, now)}</time> · from {report.mail}
        </p>
      </header>
      {standing && report.status !== "unjudged" && (
        <p className="flex items-center gap-3 bg-signal-soft px-3 py-2 text-signal-ink">
          {standing.by} {VERDICT_PAST[standing.verdict.kind]} it {ago(standing.at, now)}.
          {mayJudge && (
            <button type="button" className="button button-small" onClick={() => onUndo(standing.id)}>
              Undo the verdict
            </button>
          )}
        </p>
      )}
      <Part title="What happened" text={report.happened} />
      <Part title="How to make it happen again" text={report.reproduce || "They did not say."} soft={!report.reproduce} />
      <Part title="Where" text={report.place || "They did not say."} soft={!report.place} />
      {view.hasPicture && (
        <div>
          <h3 className="text-[13px]">Picture</h3>
          {/* A picture from outside, served by our own route; the optimiser has no part in it. */}
          {/* eslint-disable-next-line @next/next/no-img-element */}
          <img src={`/api/reports/${report.id}/picture`} alt="Sent with the report" className="mt-1 max-h-72 max-w-full border border-line" />
        </div>
      )}
      {view.messages.length > 0 && (
        <div>
          <h3 className="text-[13px]">Between us and the requester</h3>
          <ol className="mt-1 flex flex-col gap-2">
            {view.messages.map((m) => (
              <li key={m.at + m.kind} className={`border-l-[3px] px-3 ${m.kind === "answer" ? "border-accent" : "border-line-strong"}`}>
                <p className="text-[12.5px] text-ink-soft">
                  {m.kind === "question" ? `${m.author ?? "We"} asked` : m.kind === "answer" ? "They answered" : "They were told"} {ago(m.at, now)}
                </p>
                <p className="whitespace-pre-wrap">{m.body}</p>
              </li>
            ))}
          </ol>
        </div>
      )}
    </article>
  );
}

function Part({ title, text, soft = false }: { title: string; text: string; soft?: boolean }) {
  return (
    <div>
      <h3 className="text-[13px]">{title}</h3>
      <p className={`max-w-[68ch] whitespace-pre-wrap [overflow-wrap:anywhere] ${soft ? "text-ink-soft" : ""}`}>{text}</p>
    </div>
  );
}
