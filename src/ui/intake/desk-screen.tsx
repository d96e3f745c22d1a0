"use client";
import { useEffect, useRef, useState } from "react";
import { deskGroups, WHOLE_DESK, type DeskFilter } from "@/core/intake/desk-filter";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import type { DeskView, ReportView } from "@/core/intake/desk-view";
import type { GivenLately } from "@/core/intake/found-report";
import { KeysHelp } from "@/ui/kit/keys-help";
import { Note } from "@/ui/kit/note";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { problemOf } from "@/ui/kit/request";
import { DeskHead } from "./desk-head";
import { DeskFilters, DeskQueue } from "./desk-queue";
import { FoundList } from "./found-list";
import { OpenReport } from "./open-report";
import { ReportContext } from "./report-context";
import { useBegunVerdict } from "./use-begun-verdict";
import { useBeside } from "./use-beside";
import { useDesk } from "./use-desk";
import { DESK_KEYS, useDeskKeys } from "./use-desk-keys";
import { useFound, type VerdictPeriod } from "./use-found";
import { useMarked } from "./use-marked";
import { WaitPicture } from "./wait-picture";

interface DeskScreenProps {
  initial: DeskView;
  initialReport: ReportView | null;
  /** The reference that the address names. */
  asked: string | null;
  /** What the address looks for. */
  words: string;
  judged: JudgedAsked | null;
}

/** Judged reports that an address asks for: by their verdict, and when it was given. */
export interface JudgedAsked {
  verdict: DeskFilter["verdict"];
  period: VerdictPeriod | null;
}

/** The triage desk: the queue, the report, and what is known around it. */
export function DeskScreen({ initial, initialReport, asked, words, judged }: DeskScreenProps) {
  const work = useDesk(initial, initialReport, asked);
  const { desk, openId, report, error, choose } = work;
  const list = useDeskList(desk, words, judged);
  const { rows, marked } = list;
  const selected = rows.filter((r) => marked.marked.has(r.id));
  const verdict = useBegunVerdict(work, selected);
  const [trying, setTrying] = useState(false);
  const [help, setHelp] = useState(false);
  const { previous, next } = useBeside(list.looking ? list.found.rows : rows, openId);
  const { bringNear } = work;
  const nextId = next?.id;
  useEffect(() => {
    if (nextId) bringNear(nextId);
  }, [nextId, bringNear]);
  const open = (id: string) => {
    verdict.begin(null);
    setTrying(false);
    choose(id);
  };
  const takeBack = (given: readonly GivenLately[]) =>
    void work.undo(given).then(tellDone, tellProblem);
  const judging = desk.mayJudge ? openId : null;
  useDeskKeys({
    onNext: next && (() => open(next.id)),
    onPrevious: previous && (() => open(previous.id)),
    onVerdict: judging ? (kind) => verdict.begin({ kind }) : undefined,
    onTry: judging ? () => setTrying(true) : undefined,
    onSelect: judging ? () => marked.mark(judging) : undefined,
    onSelectAll: judging ? marked.markAll : undefined,
    onSelectNone: marked.marked.size > 0 ? marked.markNone : undefined,
    onUndo: desk.mayJudge
      ? () => void work.undoLast().then((said) => said && tellDone(said), tellProblem)
      : undefined,
    onFind: () => list.field.current?.focus(),
    onHelp: () => setHelp(true),
  });

  return (
    <div className="flex h-full flex-col">
      <DeskHead
        desk={desk}
        storing={work.storing}
        onFilter={list.setFilter}
        onHelp={() => setHelp(true)}
      />
      {asked !== null && initialReport?.report.reference !== asked && (
        <Note kind="look">
          There is no report {asked} that you may read. Look for it by its words or its mail
          address, in “Find”.
        </Note>
      )}
      <div className="grid min-h-0 flex-1 grid-cols-1 max-md:block max-md:overflow-y-auto md:grid-cols-[264px_minmax(0,1fr)] xl:grid-cols-[264px_minmax(0,1fr)_340px]">
        <DeskList desk={desk} list={list} openId={openId} onOpen={open} onUndo={takeBack} />
        {report ? (
          <>
            <OpenReport
              work={work}
              report={report}
              rows={rows}
              selected={selected}
              verdict={verdict}
              trying={trying}
              onTrying={setTrying}
              onUndo={takeBack}
              onOpen={open}
              onSelectNone={marked.markNone}
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
                onMerge={(itemId) => verdict.begin({ kind: "merge", itemId })}
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

/** What the list of the desk shows: what waits, or what was looked for among all reports. */
function useDeskList(desk: DeskView, firstWords: string, judged: JudgedAsked | null) {
  const [filter, setFilter] = useState<DeskFilter>(
    judged ? { ...WHOLE_DESK, show: "judged", verdict: judged.verdict } : WHOLE_DESK,
  );
  const [words, setWords] = useState(firstWords);
  const field = useRef<HTMLInputElement>(null);
  const groups = deskGroups(desk, filter);
  const looking = words.trim() !== "" || filter.show === "judged";
  const period = filter.show === "judged" ? (judged?.period ?? null) : null;
  const found = useFound(desk.project.key, words, filter, { asked: looking, period });
  const rows = groups.flatMap((g) => g.rows);
  const marked = useMarked(rows);
  return { filter, setFilter, words, setWords, field, groups, rows, looking, found, marked };
}

function DeskList({
  desk,
  list,
  openId,
  onOpen,
  onUndo,
}: {
  desk: DeskView;
  list: ReturnType<typeof useDeskList>;
  openId: string | null;
  onOpen: (id: string) => void;
  onUndo: (given: readonly GivenLately[]) => void;
}) {
  const { found, marked, words } = list;
  const { mayJudge } = desk;
  const first = found.rows[0];
  return (
    <nav
      aria-label="Queue"
      className="flex max-h-[max(40vh,320px)] flex-col border-r border-line md:max-h-none md:min-h-0"
    >
      <WaitPicture queue={desk.queue} now={desk.now} openId={openId} onOpen={onOpen} />
      <DeskFilters
        desk={desk}
        filter={list.filter}
        onChange={list.setFilter}
        words={words}
        looking={list.looking}
        onWords={list.setWords}
        onFirst={() => first && onOpen(first.id)}
        field={list.field}
      />
      <div className="min-h-0 flex-1 overflow-y-auto">
        {list.looking ? (
          <FoundList
            found={found}
            words={words}
            now={desk.now}
            today={isoDate(dayNumber(desk.now, desk.project.zone))}
            openId={openId}
            onOpen={onOpen}
            onUndo={
              mayJudge
                ? ({ id, verdict }) => onUndo([{ reportId: id, verdictId: verdict!.id }])
                : undefined
            }
          />
        ) : (
          <DeskQueue
            groups={list.groups}
            openId={openId}
            selected={marked.marked}
            now={desk.now}
            zone={desk.project.zone}
            onOpen={onOpen}
            onSelect={marked.mark}
            maySelect={mayJudge}
            empty={
              desk.queue.length + desk.aside.length === 0
                ? "The queue is empty. New reports appear here by themselves."
                : "Nothing on the desk fits what is chosen above."
            }
          />
        )}
      </div>
    </nav>
  );
}
