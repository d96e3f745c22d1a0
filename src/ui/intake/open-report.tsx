"use client";
import type { QueueRow, ReportView } from "@/core/intake/desk-view";
import { reportContract } from "@/core/intake/contract";
import type { Verdict, VerdictKind } from "@/core/intake/verdict";
import { Button, TextButton } from "@/ui/kit/button";
import { tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";
import { JudgedMeanwhile } from "./judged-meanwhile";
import { ReportReader } from "./report-reader";
import type { Desk } from "./use-desk";
import { VERDICT_BUTTONS, VerdictForm } from "./verdict-form";

/** A verdict whose form is open. */
export interface VerdictBegun {
  kind: VerdictKind;
  /** The item to merge into. */
  itemId?: string;
  reason?: string;
}

/** The report that is open, with the verdict on it or on all that are selected. */
export function OpenReport({
  work,
  report,
  rows,
  selected,
  verdict,
  onVerdict,
  trying,
  onTrying,
  onSelectNone,
  onNext,
}: {
  work: Desk;
  report: ReportView;
  rows: readonly QueueRow[];
  selected: readonly QueueRow[];
  verdict: VerdictBegun | null;
  onVerdict: (begun: VerdictBegun | null) => void;
  trying: boolean;
  onTrying: (trying: boolean) => void;
  onSelectNone: () => void;
  /** Opens the report that comes next. */
  onNext: () => void;
}) {
  const { desk, judge, judgeSeveral, undo, readAgain, meanwhile, see } = work;
  const { id } = report.report;
  const several = selected.length > 1;
  const give = async (given: Verdict, together: boolean) => {
    if (several) await judgeSeveral(selected, given, together, rows);
    else await judge(report.report, given, rows);
    onSelectNone();
    leaveForm();
  };
  const leaveForm = () => {
    onVerdict(null);
    onTrying(false);
  };
  const takeApart = () =>
    ask(reportContract.takeApart, { params: { id } }).then(readAgain, tellProblem);
  return (
    <section
      aria-label="Report"
      className="flex min-h-0 flex-col overflow-y-auto border-r border-line"
    >
      {desk.mayJudge && (
        <VerdictBar
          chosen={verdict?.kind ?? null}
          selected={selected.length}
          onChoose={(kind) => onVerdict(kind && { kind })}
          onSelectNone={onSelectNone}
        />
      )}
      {meanwhile && !several && (
        <JudgedMeanwhile
          verdict={meanwhile}
          now={desk.now}
          begun={verdict !== null}
          onSee={() => {
            see();
            leaveForm();
          }}
          onTakeBack={() =>
            void undo([{ reportId: id, verdictId: meanwhile.id }]).catch(tellProblem)
          }
          onNext={() => {
            leaveForm();
            onNext();
          }}
        />
      )}
      {verdict && (
        <VerdictForm
          key={`${several ? "several" : report.report.id} ${verdict.kind} ${verdict.itemId ?? ""} ${verdict.reason ?? ""}`}
          {...verdict}
          several={Math.max(1, selected.length)}
          held={meanwhile !== null && !several}
          desk={desk}
          view={report}
          onCancel={() => onVerdict(null)}
          onVerdict={give}
        />
      )}
      <ReportReader
        view={report}
        zone={desk.project.zone}
        now={desk.now}
        mayJudge={desk.mayJudge}
        trying={trying}
        onTrying={onTrying}
        onChanged={readAgain}
        onUndo={(verdictId) => undo([{ reportId: report.report.id, verdictId }]).catch(tellProblem)}
        onVerdict={(kind, reason) => onVerdict({ kind, reason })}
        onApart={takeApart}
      />
    </section>
  );
}

/** The verdicts, by their keys, and how many reports the next one is on. */
function VerdictBar({
  chosen,
  selected,
  onChoose,
  onSelectNone,
}: {
  chosen: VerdictKind | null;
  selected: number;
  onChoose: (kind: VerdictKind | null) => void;
  onSelectNone: () => void;
}) {
  return (
    <div
      role="toolbar"
      aria-label="Verdict"
      className="sticky top-0 z-10 flex flex-wrap items-center gap-1.5 border-b border-line bg-paper px-5 py-2"
    >
      {VERDICT_BUTTONS.map(({ kind, label, key }) => (
        <Button
          key={kind}
          aria-pressed={chosen === kind}
          look={chosen === kind ? "strong" : "plain"}
          onClick={() => onChoose(chosen === kind ? null : kind)}
        >
          {label} <kbd>{key}</kbd>
        </Button>
      ))}
      {selected > 1 && (
        <span className="ml-auto text-[13px]">
          <b>{selected} selected</b> <TextButton onClick={onSelectNone}>none</TextButton>
        </span>
      )}
    </div>
  );
}
