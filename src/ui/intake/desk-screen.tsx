"use client";
import { useEffect, useRef, useState } from "react";
import Link from "next/link";
import { REPORT_WAYS, WAY_WORDS, type ReportWay } from "@/core/intake/report";
import type { VerdictKind } from "@/core/intake/verdict";
import { KeysHelp } from "@/ui/kit/keys-help";
import { tellProblem } from "@/ui/kit/notice";
import { problemOf } from "@/ui/kit/request";
import { PromiseMark } from "./promise-mark";
import { ReportReader } from "./report-reader";
import { SimilarList } from "./similar-list";
import type { DeskView, QueueRow, ReportView } from "./types";
import { useDesk } from "./use-desk";
import { VerdictForm, VERDICT_BUTTONS } from "./verdict-form";
import { span } from "@/ui/kit/time";

const KEYS: [string, string][] = [
  ["↑ ↓", "the report before or after"],
  ["a", "accept"],
  ["m", "merge into the item that looks most like it"],
  ["q", "ask the requester"],
  ["p", "park until a date"],
  ["d", "decline"],
  ["u", "undo the last verdict"],
  ["Ctrl Enter", "give the verdict that is open"],
  ["Esc", "back to reading"],
  ["?", "this list"],
];

const VERDICT_KEYS: Record<string, VerdictKind> = { a: "accept", m: "merge", q: "ask", p: "park", d: "decline" };

/** The triage desk: the queue, the report, and what is known around it. */
export function DeskScreen({ initial, initialReport }: { initial: DeskView; initialReport: ReportView | null }) {
  const { desk, openId, report, error, choose, judge, undo, last } = useDesk(initial, initialReport);
  const [verdict, setVerdict] = useState<{ kind: VerdictKind; itemId?: string } | null>(null);
  const [help, setHelp] = useState(false);
  const [way, setWay] = useState<ReportWay | "">("");
  const ways = REPORT_WAYS.filter((w) => desk.queue.some((r) => r.way === w));
  const queue = way === "" || !ways.includes(way) ? desk.queue : desk.queue.filter((r) => r.way === way);
  const open = (id: string) => {
    setVerdict(null);
    choose(id);
  };
  const handlers = useRef<(event: KeyboardEvent) => void>(() => {});
  useEffect(() => {
    handlers.current = (event) => {
      const typing = (event.target as HTMLElement).closest?.("input,textarea,select,[role=dialog]");
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      const all = [...queue, ...desk.aside];
      const at = all.findIndex((r) => r.id === openId);
      const kind = VERDICT_KEYS[event.key];
      if (event.key === "ArrowDown" && all[at + 1]) open(all[at + 1].id);
      else if (event.key === "ArrowUp" && all[at - 1]) open(all[at - 1].id);
      else if (kind && desk.mayJudge && report) setVerdict({ kind });
      else if (event.key === "u" && last) undo(last.reportId, last.verdictId).catch(tellProblem);
      else if (event.key === "?") setHelp(true);
      else return;
      event.preventDefault();
    };
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => handlers.current(event);
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);

  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 items-center gap-x-4 border-b border-line px-4 py-2.5 max-sm:flex-wrap">
        <h1 className="text-[18px]">Triage desk</h1>
        <p className="text-ink-soft">
          <b className="text-ink">{desk.queue.length}</b> {desk.queue.length === 1 ? "report waits" : "reports wait"} for a verdict
          {desk.queue[0] && <>, the oldest for {span(desk.now - desk.queue[0].receivedAt)}</>}
        </p>
        {ways.length > 1 && (
          <label className="flex items-center gap-1.5 text-[13px] text-ink-soft">
            shown:
            <select className="field !w-auto" aria-label="Way in" value={way} onChange={(e) => setWay(e.target.value as ReportWay | "")}>
              <option value="">all ways in</option>
              {ways.map((w) => (
                <option key={w} value={w}>
                  {WAY_WORDS[w]}
                </option>
              ))}
            </select>
          </label>
        )}
        <span className="flex-1" />
        {desk.mayJudge && (
          <Link className="link text-[13px]" href={`/p/${desk.project.key}/intake/import`}>
            Import a table
          </Link>
        )}
        <a className="link text-[13px]" href={`/report/${desk.project.key}`} target="_blank" rel="noreferrer">
          Public report page
        </a>
        <button type="button" className="button button-small max-sm:hidden" onClick={() => setHelp(true)}>
          Keys <kbd>?</kbd>
        </button>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-1 max-md:block max-md:overflow-y-auto md:grid-cols-[264px_minmax(0,1fr)] xl:grid-cols-[264px_minmax(0,1fr)_340px]">
        <nav aria-label="Queue" className="max-h-[40vh] overflow-y-auto border-r border-line md:max-h-none">
          <Queue rows={queue} openId={openId} now={desk.now} onOpen={open} empty="The queue is empty. New reports appear here by themselves." />
          {desk.aside.length > 0 && (
            <>
              <h2 className="border-y border-line bg-well px-4 py-1 text-[12.5px]">Put aside: asked or parked</h2>
              <Queue rows={desk.aside} openId={openId} now={desk.now} onOpen={open} empty="" />
            </>
          )}
        </nav>
        {report ? (
          <>
            <section aria-label="Report" className="flex min-h-0 flex-col overflow-y-auto border-r border-line">
              {desk.mayJudge && (
                <div role="toolbar" aria-label="Verdict" className="sticky top-0 z-10 flex flex-wrap gap-1.5 border-b border-line bg-paper px-5 py-2">
                  {VERDICT_BUTTONS.map(({ kind, label, key }) => (
                    <button key={kind} type="button" aria-pressed={verdict?.kind === kind} className={`button ${verdict?.kind === kind ? "button-strong" : ""}`} onClick={() => setVerdict(verdict?.kind === kind ? null : { kind })}>
                      {label} <kbd>{key}</kbd>
                    </button>
                  ))}
                </div>
              )}
              {verdict && <VerdictForm key={`${report.report.id} ${verdict.kind} ${verdict.itemId ?? ""}`} kind={verdict.kind} itemId={verdict.itemId} desk={desk} view={report} onCancel={() => setVerdict(null)} onVerdict={async (given) => { await judge(report, given); setVerdict(null); }} />}
              <ReportReader view={report} zone={desk.project.zone} now={desk.now} onUndo={(verdictId) => undo(report.report.id, verdictId).catch(tellProblem)} mayJudge={desk.mayJudge} />
            </section>
            <section aria-label="Known around it" className="overflow-y-auto md:col-start-2 xl:col-start-auto">
              <SimilarList view={report} mayJudge={desk.mayJudge} onMerge={(itemId) => setVerdict({ kind: "merge", itemId })} />
            </section>
          </>
        ) : (
          <div className="p-10 text-ink-soft">{error ? `${problemOf(error).sentence} ${problemOf(error).help}` : openId ? "Opening the report…" : "Nothing waits for a verdict. Well done."}</div>
        )}
      </div>
      <KeysHelp open={help} onClose={() => setHelp(false)} title="Keys of the triage desk" keys={KEYS} />
    </div>
  );
}

const LONG_WAIT_MS = 3 * 86_400_000;

function Queue({ rows, openId, now, onOpen, empty }: { rows: QueueRow[]; openId: string | null; now: number; onOpen: (id: string) => void; empty: string }) {
  if (rows.length === 0) return empty ? <p className="p-4 text-ink-soft">{empty}</p> : null;
  return (
    <ul>
      {rows.map((row) => {
        const waits = now - row.receivedAt;
        return (
          <li key={row.id}>
            <button
              type="button"
              aria-current={row.id === openId ? "true" : undefined}
              data-reference={row.reference}
              onClick={() => onOpen(row.id)}
              className={`block w-full border-b border-line px-4 py-2 text-left ${row.id === openId ? "bg-accent-soft shadow-[inset_3px_0_0_var(--accent)]" : "hover:bg-sheet"}`}
            >
              <span className="flex items-baseline justify-between gap-2">
                <span className="key">{row.reference}</span>
                <span className={`whitespace-nowrap text-[12.5px] ${waits > LONG_WAIT_MS ? "font-semibold text-signal-ink" : "text-ink-soft"}`}>
                  {row.status === "asked" ? "asked" : row.status === "parked" ? `until ${row.parkedUntil}` : span(waits)}
                </span>
              </span>
              <span className="line-clamp-2 font-medium leading-snug">{row.title}</span>
              {row.promise && (
                <span className="block">
                  <PromiseMark state={row.promise.answer} what="answer" />
                </span>
              )}
              {row.returnedAt !== null && <span className="text-[12.5px] text-signal-ink">came back: answered or its day has come</span>}
            </button>
          </li>
        );
      })}
    </ul>
  );
}
