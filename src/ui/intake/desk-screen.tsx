"use client";
import { useEffect, useState } from "react";
import { deskGroups, WHOLE_DESK } from "@/core/intake/desk-filter";
import type { DeskView, ReportView } from "@/core/intake/desk-view";
import { KeysHelp } from "@/ui/kit/keys-help";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { problemOf } from "@/ui/kit/request";
import { ReportContext } from "./report-context";
import { DeskFilters, DeskQueue } from "./desk-queue";
import { useBeside } from "./use-beside";
import { useDesk } from "./use-desk";
import { DESK_KEYS, useDeskKeys } from "./use-desk-keys";
import { DeskHead } from "./desk-head";
import { OpenReport, type VerdictBegun } from "./open-report";
import { WaitPicture } from "./wait-picture";

/** The triage desk: the queue, the report, and what is known around it. */
export function DeskScreen({
  initial,
  initialReport,
}: {
  initial: DeskView;
  initialReport: ReportView | null;
}) {
  const work = useDesk(initial, initialReport);
  const { desk, openId, report, error, choose, undo, last, bringNear } = work;
  const [verdict, setVerdict] = useState<VerdictBegun | null>(null);
  const [trying, setTrying] = useState(false);
  const [help, setHelp] = useState(false);
  const [filter, setFilter] = useState(WHOLE_DESK);
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const groups = deskGroups(desk, filter);
  const rows = groups.flatMap((g) => g.rows);
  const selected = rows.filter((r) => marked.has(r.id));
  const { previous, next } = useBeside(rows, openId);
  const nextId = next?.id;
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
  const judging = desk.mayJudge ? openId : null;
  useDeskKeys({
    onNext: next && (() => open(next.id)),
    onPrevious: previous && (() => open(previous.id)),
    onVerdict: judging ? (kind) => setVerdict({ kind }) : undefined,
    onTry: judging ? () => setTrying(true) : undefined,
    onSelect: judging ? () => mark(judging) : undefined,
    onSelectNone: marked.size > 0 ? () => setMarked(new Set()) : undefined,
    onUndo: last.length > 0 ? () => void undoLast() : undefined,
    onHelp: () => setHelp(true),
  });

  return (
    <div className="flex h-full flex-col">
      <DeskHead desk={desk} onFilter={setFilter} onHelp={() => setHelp(true)} />
      <div className="grid min-h-0 flex-1 grid-cols-1 max-md:block max-md:overflow-y-auto md:grid-cols-[264px_minmax(0,1fr)] xl:grid-cols-[264px_minmax(0,1fr)_340px]">
        <nav
          aria-label="Queue"
          className="flex max-h-[40vh] flex-col border-r border-line md:max-h-none md:min-h-0"
        >
          <WaitPicture queue={desk.queue} now={desk.now} openId={openId} onOpen={open} />
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
            <OpenReport
              work={work}
              report={report}
              rows={rows}
              selected={selected}
              verdict={verdict}
              onVerdict={setVerdict}
              trying={trying}
              onTrying={setTrying}
              onSelectNone={() => setMarked(new Set())}
              onNext={() => choose((next ?? previous)?.id ?? null)}
            />
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
        keys={DESK_KEYS}
      />
    </div>
  );
}
