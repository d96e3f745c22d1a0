"use client";
import { addressOf } from "@/core/contract/contract";
import { reportContract } from "@/core/intake/contract";
import type { ReportView } from "@/core/intake/desk-view";
import { ago } from "@/ui/kit/time";
import { FileList } from "./file-list";

/** What a report says, as it was written, and what was sent with it. */
export function ReportTexts({ view }: { view: ReportView }) {
  const { report } = view;
  return (
    <>
      <Part title="What happened" text={report.happened} />
      {report.answers.map((a) => (
        <Part key={a.questionId} title={a.label} text={a.value} />
      ))}
      {report.reproduce && <Part title="How to make it happen again" text={report.reproduce} />}
      {report.place && <Part title="Where" text={report.place} />}
      {view.files.length > 0 && (
        <div>
          <h3 className="mb-1 text-[13px]">Sent with it</h3>
          <FileList
            files={view.files}
            addressOf={(file) =>
              addressOf(reportContract.file, { params: { id: report.id, file } })
            }
          />
        </div>
      )}
    </>
  );
}

const SAID: Record<string, string> = {
  answer: "They answered",
  progress: "They were told",
  reminder: "They were reminded",
};

/** What was said between the team and whoever reported it. */
export function ReportLetters({ view, now }: { view: ReportView; now: number }) {
  if (view.messages.length === 0) return null;
  return (
    <div>
      <h3 className="text-[13px]">Between us and the requester</h3>
      <ol className="mt-1 flex flex-col gap-2">
        {view.messages.map((m, i) => (
          <li
            key={i}
            className={`border-l-[3px] px-3 ${m.kind === "answer" ? "border-accent" : "border-line-strong"}`}
          >
            <p className="text-[12.5px] text-ink-soft">
              {SAID[m.kind] ?? `${m.author ?? "We"} asked`} {ago(m.at, now)}
            </p>
            <p className="whitespace-pre-wrap [overflow-wrap:anywhere]">{m.body}</p>
          </li>
        ))}
      </ol>
    </div>
  );
}

function Part({ title, text }: { title: string; text: string }) {
  return (
    <div>
      <h3 className="text-[13px]">{title}</h3>
      <p className="max-w-[68ch] whitespace-pre-wrap [overflow-wrap:anywhere]">{text}</p>
    </div>
  );
}
