"use client";
import { useQuery } from "@tanstack/react-query";
import { reportContract } from "@/core/intake/contract";
import { WAY_WORDS } from "@/core/intake/report";
import { VERDICT_PAST } from "@/core/intake/verdict";
import { Button } from "@/ui/kit/button";
import { Note } from "@/ui/kit/note";
import { ask, problemOf, queryOf } from "@/ui/kit/request";
import { tellProblem } from "@/ui/kit/notice";
import { ago, exact } from "@/ui/kit/time";
import { ofIntake, useReadAgain } from "@/ui/kit/use-read-again";
import { ReportLetters, ReportTexts } from "./report-texts";

/** A report that an item came from or that was merged into it: its words, files and letters. */
export function ReportBehind({
  reportId,
  zone,
  now,
  mayJudge,
  onChanged,
}: {
  reportId: string;
  zone: string;
  now: number;
  mayJudge: boolean;
  /** The verdict on it was taken back. */
  onChanged: () => Promise<unknown>;
}) {
  const {
    data: view,
    error,
    refetch,
  } = useQuery(queryOf(reportContract.read, { params: { id: reportId } }));
  useReadAgain(ofIntake, refetch);
  if (error) return <Note kind="problem">{problemOf(error).sentence}</Note>;
  if (!view) return <p className="text-ink-soft">Reading what they wrote…</p>;
  const { report } = view;
  const standing = view.verdicts.find(({ undoneAt }) => undoneAt === null);
  const undo = async (id: string) => {
    try {
      await ask(reportContract.undoVerdict, { params: { id: reportId }, body: { verdictId: id } });
    } catch (refused) {
      tellProblem(refused);
    }
    await Promise.all([refetch(), onChanged()]);
  };
  return (
    <div className="my-1.5 flex flex-col gap-3 border-l-2 border-line-strong pl-3 text-[13.5px]">
      <p className="text-[12.5px] text-ink-soft">
        {exact(report.receivedAt, zone)} · {WAY_WORDS[report.way]}
        {report.mail && `, ${report.mail}`}
      </p>
      <ReportTexts view={view} />
      <ReportLetters view={view} now={now} />
      {standing && (
        <p className="flex flex-wrap items-center gap-2 text-[12.5px] text-ink-soft">
          {standing.by ?? "A rule"} {VERDICT_PAST[standing.kind]} it {ago(standing.at, now)}.
          {mayJudge && (
            <Button small look="quiet" onClick={() => void undo(standing.id)}>
              Undo the verdict
            </Button>
          )}
        </p>
      )}
    </div>
  );
}
