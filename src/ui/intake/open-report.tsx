"use client";
import type { QueueRow, ReportView } from "@/core/intake/desk-view";
import type { GivenLately } from "@/core/intake/found-report";
import { reportContract } from "@/core/intake/contract";
import type { Verdict, VerdictKind } from "@/core/intake/verdict";
import { Button, TextButton } from "@/ui/kit/button";
import { tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";
import { JudgedMeanwhile } from "./judged-meanwhile";
import { ReportReader } from "./report-reader";
import type { BegunVerdict } from "./use-begun-verdict";
import type { Desk } from "./use-desk";
import { VERDICT_BUTTONS, VerdictForm } from "./verdict-form";

/** The report that is open, with the verdict on it or on all that are selected. */
export function OpenReport({
  work,
  report,
  rows,
  selected,
  verdict,
  trying,
  onTrying,
  onUndo,
  onOpen,
  onSelectNone,
  onNext,
}: {
  work: Desk;
  report: ReportView;
  rows: readonly QueueRow[];
  selected: readonly QueueRow[];
  verdict: BegunVerdict;
  trying: boolean;
  onTrying: (trying: boolean) => void;
  onUndo: (given: readonly GivenLately[]) => void;
  onOpen: (reportId: string) => void;
  onSelectNone: () => void;
  /** Opens the report that comes next. */
  onNext: () => void;
}) {
  const { desk, readAgain, meanwhile, see } = work;
  const { id } = report.report;
  const { begun, begin } = verdict;
  const several = selected.length > 1;
  const give = (given: Verdict, together: boolean) => {
    verdict.give(report, given, { together, rows });
    onSelectNone();
    onTrying(false);
  };
  const leaveForm = () => {
    begin(null);
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
          chosen={begun?.kind ?? null}
          selected={selected.length}
          onChoose={(kind) => begin(kind && { kind })}
          onSelectNone={onSelectNone}
        />
      )}
      {meanwhile && !several && (
        <JudgedMeanwhile
          verdict={meanwhile}
          now={desk.now}
          begun={begun !== null}
          onSee={() => {
            see();
            leaveForm();
          }}
          onTakeBack={() => onUndo([{ reportId: id, verdictId: meanwhile.id }])}
          onNext={() => {
            leaveForm();
            onNext();
          }}
        />
      )}
      {begun && (
        <VerdictForm
          key={`${several ? "several" : id} ${begun.kind} ${begun.itemId ?? ""} ${begun.reason ?? ""}`}
          begun={begun}
          several={Math.max(1, selected.length)}
          held={meanwhile !== null && !several}
          desk={desk}
          view={report}
          {...verdict.formFor(id)!}
          onCancel={() => begin(null)}
          onVerdict={give}
        />
      )}
      <ReportReader
        view={report}
        projectKey={desk.project.key}
        moved={work.moved}
        zone={desk.project.zone}
        now={desk.now}
        mayJudge={desk.mayJudge}
        trying={trying}
        onTrying={onTrying}
        onChanged={readAgain}
        onUndo={(verdictId) => onUndo([{ reportId: id, verdictId }])}
        onVerdict={begin}
        onOpen={onOpen}
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
