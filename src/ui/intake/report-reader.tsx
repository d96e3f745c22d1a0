"use client";
import { useEffect, useRef } from "react";
import { ShieldAlert } from "lucide-react";
import { soundsLikeHole, textOfReport } from "@/core/intake/security-words";
import { Note } from "@/ui/kit/note";
import { cutText } from "@/core/formats/cut-text";
import { isWriting } from "@/ui/kit/takes-keys";
import { Button, TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { goesOutWords } from "@/core/plan/goes-out";
import type { VerdictBegun } from "./typed-verdict";
import type { ReportView } from "@/core/intake/desk-view";
import { WAY_WORDS } from "@/core/intake/report";
import { VERDICT_PAST } from "@/core/intake/verdict";
import { ago, exact } from "@/ui/kit/time";
import { ReportLetters, ReportTexts } from "./report-texts";
import { ReportParts } from "./report-parts";
import { ReproductionRecord } from "./reproduction-record";

interface Props {
  view: ReportView;
  projectKey: string;
  /** Whether another report was open before on this page. */
  moved: boolean;
  zone: string;
  now: number;
  mayJudge: boolean;
  trying: boolean;
  onTrying: (trying: boolean) => void;
  onChanged: () => Promise<void>;
  onUndo: (verdictId: string) => void;
  onVerdict: (begun: VerdictBegun) => void;
  onOpen: (reportId: string) => void;
  onApart: () => void;
}

/** A report as it was written. Its text is shown as text, whatever is in it. */
export function ReportReader({
  view,
  projectKey,
  moved,
  zone,
  now,
  mayJudge,
  trying,
  onTrying,
  onChanged,
  onUndo,
  onVerdict,
  onOpen,
  onApart,
}: Props) {
  const { report } = view;
  const hole = soundsLikeHole(textOfReport(report));
  const heading = useHeadingFocus(report.id, moved);
  const answer = report.returnedAt === null ? undefined : lastAnswer(view);
  const standing = view.verdicts.find((v) => v.undoneAt === null);
  return (
    <article className="flex flex-col gap-4 px-5 py-4">
      <header>
        <h2
          ref={heading}
          tabIndex={-1}
          className="text-[18px] leading-snug outline-none [overflow-wrap:anywhere]"
        >
          {report.title}
        </h2>
        <p className="text-[13px] text-ink-soft">
          <span className="key">{report.reference}</span> ·{" "}
          <time title={exact(report.receivedAt, zone)}>{ago(report.receivedAt, now)}</time> ·{" "}
          {WAY_WORDS[report.way]}
          {report.mail && `, ${report.mail}`}
          {view.followers > 0 && (
            <b className="text-ink">
              {" "}
              · happens to {view.followers} more {view.followers === 1 ? "person" : "people"}
            </b>
          )}
        </p>
        <ReportParts {...{ view, projectKey, mayJudge, onChanged }} />
      </header>
      {standing && report.status !== "unjudged" && (
        <p className="flex items-center gap-3 bg-signal-soft px-3 py-2 text-signal-ink">
          <span>
            {standing.by ?? "A rule"} {VERDICT_PAST[standing.kind]} it {ago(standing.at, now)}.
            {view.goesOut &&
              ` ${view.itemKey} ${goesOutWords(view.goesOut, isoDate(dayNumber(now, zone)))}.`}
          </span>
          {mayJudge && (
            <Button small onClick={() => onUndo(standing.id)}>
              Undo the verdict
            </Button>
          )}
          {mayJudge && report.status === "merged" && (
            <Button small onClick={onApart}>
              Take it off {view.itemKey}
            </Button>
          )}
        </p>
      )}
      {hole !== null && report.status !== "declined" && (
        <HoleNote words={hole} unjudged={mayJudge && report.status === "unjudged"} />
      )}
      {view.broughtBack && report.status === "unjudged" && (
        <BroughtBack by={view.broughtBack} onOpen={onOpen} />
      )}
      {answer && report.status === "unjudged" && <AnswerCame answer={answer} now={now} />}
      <ReportTexts view={view} />
      <ReproductionRecord
        key={report.id}
        view={view}
        now={now}
        mayJudge={mayJudge}
        trying={trying}
        onTrying={onTrying}
        onChanged={onChanged}
        onVerdict={onVerdict}
      />
      <ReportLetters view={view} now={now} />
      <History view={view} now={now} />
    </article>
  );
}

function HoleNote({ words, unjudged }: { words: string; unjudged: boolean }) {
  return (
    <Note kind="look">
      <p className="flex items-start gap-2">
        <ShieldAlert size={15} aria-hidden="true" className="mt-0.5 shrink-0" />
        <span>
          It says “{words}”: it may be a hole in security.
          {unjudged &&
            " Accepted, it is restricted unless you say otherwise: only leads, you and whoever works on it see it."}
        </span>
      </p>
    </Note>
  );
}

/** What is new about a report that could not be made to happen. */
function BroughtBack({
  by: { why, key, id, about },
  onOpen,
}: {
  by: NonNullable<ReportView["broughtBack"]>;
  onOpen: (reportId: string) => void;
}) {
  const { openItem } = usePanel();
  return (
    <p className="border-l-[3px] border-accent bg-accent-soft px-3 py-2">
      <b>It is back:</b>{" "}
      {why === "one like it came"
        ? "one like it came in, "
        : "its part of the product changed with "}
      <TextButton
        className="key !text-accent"
        onClick={() => (about === "report" ? onOpen(id) : openItem(key))}
      >
        {key}
      </TextButton>
      . It could not be made to happen before; try it again.
    </p>
  );
}

/** An answer that brought the report back stands before everything else. */
function AnswerCame({
  answer: { at, asked, body },
  now,
}: {
  answer: NonNullable<ReturnType<typeof lastAnswer>>;
  now: number;
}) {
  return (
    <section
      aria-label="An answer came"
      className="border-l-[3px] border-accent bg-accent-soft px-3 py-2"
    >
      <h3 className="text-[13px]">
        They answered {ago(at, now)}
        {asked && <span className="font-normal text-ink-soft"> to “{cutText(asked, 160)}”</span>}
      </h3>
      <p className="max-w-[68ch] whitespace-pre-wrap [overflow-wrap:anywhere]">{body}</p>
    </section>
  );
}

/** What whoever reported it answered last, and to what. */
function lastAnswer({ messages }: ReportView) {
  const at = messages.findLastIndex((m) => m.kind === "answer");
  if (at < 0) return undefined;
  const asked = messages.slice(0, at).findLast((m) => m.kind === "question");
  return { ...messages[at], asked: asked?.body ?? null };
}

/**
 * Leads whoever opens another report to its heading, which says what is open now; who writes
 * somewhere stays there.
 */
function useHeadingFocus(reportId: string, moved: boolean) {
  const heading = useRef<HTMLHeadingElement>(null);
  // A report that had to be fetched is read by a new reader.
  const before = useRef(moved ? null : reportId);
  useEffect(() => {
    if (before.current === reportId) return;
    before.current = reportId;
    if (!isWriting(document.activeElement)) heading.current?.focus({ preventScroll: true });
  }, [reportId]);
  return heading;
}

/** Every verdict there was, those undone as well. */
function History({ view, now }: { view: ReportView; now: number }) {
  const gone = view.verdicts.filter((v) => v.undoneAt !== null);
  if (gone.length === 0) return null;
  return (
    <div>
      <h3 className="text-[13px]">Verdicts before</h3>
      <ul className="text-[13px] text-ink-soft">
        {gone.map((v) => (
          <li key={v.id}>
            {v.by ?? "A rule"} {VERDICT_PAST[v.kind]} it {ago(v.at, now)}; undone{" "}
            {ago(v.undoneAt!, now)}.
          </li>
        ))}
      </ul>
    </div>
  );
}
