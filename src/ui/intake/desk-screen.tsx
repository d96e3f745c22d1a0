"use client";
import { takesKeys } from "@/ui/kit/takes-keys";
import { Select } from "@/ui/kit/select";
import { TextButton, Button } from "@/ui/kit/button";
import { useEffect, useRef, useState } from "react";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { deskGroups, WHOLE_DESK } from "@/core/intake/desk-filter";
import type { DeskView, ReportView } from "@/core/intake/desk-view";
import { workLeft } from "@/core/intake/pace";
import type { VerdictKind } from "@/core/intake/verdict";
import { KeysHelp } from "@/ui/kit/keys-help";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, problemOf } from "@/ui/kit/request";
import { ReportContext } from "./report-context";
import { DeskFilters, DeskQueue } from "./desk-queue";
import { ReportReader } from "./report-reader";
import { useDesk } from "./use-desk";
import { VerdictForm, VERDICT_BUTTONS } from "./verdict-form";
import { reportContract } from "@/core/intake/contract";

const KEYS: [string, string][] = [
  ["↑ ↓", "the report before or after"],
  ["a", "accept"],
  ["m", "merge into the item that looks most like it"],
  ["q", "ask the requester"],
  ["p", "park until a date, or until an item is done"],
  ["d", "decline"],
  ["t", "keep that you tried to make it happen"],
  ["x", "select it; the next verdict is on all that are selected"],
  ["u", "undo the last verdict, then the one before it"],
  ["Ctrl Enter", "give the verdict that is open"],
  ["Esc", "back to reading"],
  ["?", "this list"],
];

const VERDICT_KEYS: Record<string, VerdictKind> = {
  a: "accept",
  m: "merge",
  q: "ask",
  p: "park",
  d: "decline",
};

/** The triage desk: the queue, the report, and what is known around it. */
export function DeskScreen({
  initial,
  initialReport,
}: {
  initial: DeskView;
  initialReport: ReportView | null;
}) {
  const router = useRouter();
  const {
    desk,
    openId,
    report,
    error,
    choose,
    judge,
    judgeSeveral,
    undo,
    last,
    readAgain,
    bringNear,
  } = useDesk(initial, initialReport);
  const [verdict, setVerdict] = useState<{
    kind: VerdictKind;
    itemId?: string;
    reason?: string;
  } | null>(null);
  const [trying, setTrying] = useState(false);
  const [help, setHelp] = useState(false);
  const [filter, setFilter] = useState(WHOLE_DESK);
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const groups = deskGroups(desk, filter);
  const rows = groups.flatMap((g) => g.rows);
  const selected = rows.filter((r) => marked.has(r.id));
  const several = selected.length > 1;
  const leftMs = workLeft(desk.took, desk.queue.length);
  const missed = desk.queue.filter((r) => r.promise?.state.standing === "missed").length;
  const nextId = rows[rows.findIndex((r) => r.id === openId) + 1]?.id;
  useEffect(() => {
    if (nextId) bringNear(nextId);
  }, [nextId, bringNear]);
  const open = (id: string) => {
    setVerdict(null);
    setTrying(false);
    choose(id);
  };
  const mark = (id: string) =>
    setMarked(
      (before) => new Set(before.has(id) ? [...before].filter((b) => b !== id) : [...before, id]),
    );
  const undoLast = () => undo(last).then(() => tellDone("Undone."), tellProblem);
  const handlers = useRef<(event: KeyboardEvent) => void>(() => {});
  useEffect(() => {
    handlers.current = (event) => {
      if (takesKeys(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      const at = rows.findIndex((r) => r.id === openId);
      const kind = VERDICT_KEYS[event.key];
      if (event.key === "ArrowDown" && rows[at + 1]) open(rows[at + 1].id);
      else if (event.key === "ArrowUp" && rows[at - 1]) open(rows[at - 1].id);
      else if (kind && desk.mayJudge && openId) setVerdict({ kind });
      else if (event.key === "t" && desk.mayJudge && openId) setTrying(true);
      else if (event.key === "x" && desk.mayJudge && openId) mark(openId);
      else if (event.key === "Escape" && marked.size > 0) setMarked(new Set());
      else if (event.key === "u" && last.length > 0) void undoLast();
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
      <div className="flex shrink-0 items-center gap-x-4 gap-y-1 border-b border-line px-4 py-2.5 max-sm:flex-wrap">
        <h1 className="text-[18px] whitespace-nowrap">Triage desk</h1>
        <p className="text-ink-soft">
          <b className="text-ink">{desk.queue.length}</b>{" "}
          {desk.queue.length === 1 ? "report waits" : "reports wait"} for a verdict
          {leftMs !== null && desk.queue.length > 0 && (
            <span
              title={`The median of the last ${desk.took.length} verdicts, times the reports that wait`}
            >
              , about{" "}
              <b className="text-ink">
                {leftMs < 90_000 ? "a minute" : `${Math.round(leftMs / 60_000)} minutes`}
              </b>{" "}
              of work left
            </span>
          )}
          {missed > 0 && (
            <>
              ,{" "}
              <TextButton
                className="!text-alarm"
                onClick={() =>
                  setFilter({ ...WHOLE_DESK, show: "near its promise", order: "by promise" })
                }
              >
                {missed} past {missed === 1 ? "its" : "their"} promise
              </TextButton>
            </>
          )}
        </p>
        <span className="flex-1" />
        {desk.desks.length > 1 && (
          <Select
            label="Desk"
            className="!w-auto"
            value={desk.project.key}
            options={desk.desks.map((d) => ({
              value: d.key,
              label: `${d.name} (${d.key === desk.project.key ? desk.queue.length : d.waiting})`,
            }))}
            onChange={(next) => router.push(`/p/${next}/intake`)}
          />
        )}
        {desk.mayJudge && (
          <Link
            className="link text-[13px] whitespace-nowrap"
            href={`/p/${desk.project.key}/intake/import`}
          >
            Import a table
          </Link>
        )}
        <Button small className="max-sm:hidden" onClick={() => setHelp(true)}>
          Keys <kbd>?</kbd>
        </Button>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-1 max-md:block max-md:overflow-y-auto md:grid-cols-[264px_minmax(0,1fr)] xl:grid-cols-[264px_minmax(0,1fr)_340px]">
        <nav
          aria-label="Queue"
          className="flex max-h-[40vh] flex-col border-r border-line md:max-h-none md:min-h-0"
        >
          <DeskFilters desk={desk} filter={filter} onChange={setFilter} />
          <div className="min-h-0 flex-1 overflow-y-auto">
            <DeskQueue
              groups={groups}
              openId={openId}
              selected={marked}
              now={desk.now}
              onOpen={open}
              onSelect={mark}
              maySelect={desk.mayJudge}
              empty={
                desk.queue.length + desk.aside.length === 0
                  ? "The queue is empty. New reports appear here by themselves."
                  : "Nothing on the desk fits what is chosen above."
              }
            />
          </div>
        </nav>
        {report ? (
          <>
            <section
              aria-label="Report"
              className="flex min-h-0 flex-col overflow-y-auto border-r border-line"
            >
              {desk.mayJudge && (
                <div
                  role="toolbar"
                  aria-label="Verdict"
                  className="sticky top-0 z-10 flex flex-wrap items-center gap-1.5 border-b border-line bg-paper px-5 py-2"
                >
                  {VERDICT_BUTTONS.map(({ kind, label, key }) => (
                    <Button
                      key={kind}
                      aria-pressed={verdict?.kind === kind}
                      look={verdict?.kind === kind ? "strong" : "plain"}
                      onClick={() => setVerdict(verdict?.kind === kind ? null : { kind })}
                    >
                      {label} <kbd>{key}</kbd>
                    </Button>
                  ))}
                  {several && (
                    <span className="ml-auto text-[13px]">
                      <b>{selected.length} selected</b>{" "}
                      <TextButton onClick={() => setMarked(new Set())}>none</TextButton>
                    </span>
                  )}
                </div>
              )}
              {verdict && (
                <VerdictForm
                  key={`${several ? "several" : report.report.id} ${verdict.kind} ${verdict.itemId ?? ""} ${verdict.reason ?? ""}`}
                  {...verdict}
                  several={several ? selected.length : 1}
                  desk={desk}
                  view={report}
                  onCancel={() => setVerdict(null)}
                  onVerdict={async (given, together) => {
                    if (several) await judgeSeveral(selected, given, together, rows);
                    else await judge(report.report, given, rows);
                    setMarked(new Set());
                    setVerdict(null);
                    setTrying(false);
                  }}
                />
              )}
              <ReportReader
                view={report}
                zone={desk.project.zone}
                now={desk.now}
                mayJudge={desk.mayJudge}
                trying={trying}
                onTrying={setTrying}
                onChanged={readAgain}
                onUndo={(verdictId) =>
                  undo([{ reportId: report.report.id, verdictId }]).catch(tellProblem)
                }
                onVerdict={(kind, reason) => setVerdict({ kind, reason })}
                onApart={() =>
                  ask(reportContract.takeApart, { params: { id: report.report.id } }).then(
                    readAgain,
                    tellProblem,
                  )
                }
              />
            </section>
            <section
              aria-label="Known around it"
              className="overflow-y-auto md:col-start-2 xl:col-start-auto"
            >
              <ReportContext
                view={report}
                desk={desk}
                mayJudge={desk.mayJudge}
                onMerge={(itemId) => setVerdict({ kind: "merge", itemId })}
                onOpen={open}
              />
            </section>
          </>
        ) : (
          <div className="p-10 text-ink-soft">
            {error
              ? `${problemOf(error).sentence} ${problemOf(error).help}`
              : openId
                ? "Opening the report…"
                : "Nothing waits for a verdict. Well done."}
          </div>
        )}
      </div>
      <KeysHelp
        open={help}
        onClose={() => setHelp(false)}
        title="Keys of the triage desk"
        keys={KEYS}
      />
    </div>
  );
}
