"use client";
import { useRef, useState } from "react";
import type { QueueRow, ReportView } from "@/core/intake/desk-view";
import type { Verdict } from "@/core/intake/verdict";
import { tellProblem } from "@/ui/kit/notice";
import { problemOf, type Problem } from "@/ui/kit/request";
import type { TypedVerdict, VerdictBegun } from "./typed-verdict";
import type { Desk } from "./use-desk";

/** A verdict that was not given, with what it was meant for. */
interface Refusal {
  form: string;
  problem: Problem;
}

/**
 * The verdict whose form is open, with what was typed into each form until it is given. It is sent
 * while the next report is read already; what is refused comes back with its words.
 */
export function useBegunVerdict(work: Desk, selected: readonly QueueRow[]) {
  const [begun, setBegun] = useState<VerdictBegun | null>(null);
  const [refusal, setRefusal] = useState<Refusal | null>(null);
  const [typed] = useState(() => new Map<string, TypedVerdict>());
  const open = useRef<VerdictBegun | null>(null);
  const several = selected.length > 1;
  const formOf = (reportId: string, { kind }: VerdictBegun) =>
    `${several ? "several" : reportId} ${kind}`;

  const begin = (next: VerdictBegun | null) => {
    open.current = next;
    setBegun(next);
    setRefusal(null);
  };
  /** Gives the verdict that is open, on the report or on all that are selected. */
  const give = (
    { report }: ReportView,
    verdict: Verdict,
    { together, rows }: { together: boolean; rows: readonly QueueRow[] },
  ) => {
    const given = begun!;
    const form = formOf(report.id, given);
    const sent = several
      ? work.judgeSeveral(selected, verdict, together)
      : work.judge(report, verdict, work.tookSoFar());
    begin(null);
    work.goOn(several ? selected.map((r) => r.id) : [report.id], rows);
    sent.then(
      () => typed.delete(form),
      (error) => {
        const problem = problemOf(error);
        const back = () => {
          work.choose(report.id);
          open.current = given;
          setBegun(given);
          setRefusal({ form, problem });
        };
        // Nobody is taken away from what they have begun meanwhile.
        if (open.current === null && !several) back();
        else tellProblem(problem, several ? undefined : { label: "Back to it", onClick: back });
      },
    );
  };
  return {
    begun,
    begin,
    give,
    /** What was typed into the form that is open, and why it was refused. */
    formFor: (reportId: string) => {
      if (!begun) return null;
      const form = formOf(reportId, begun);
      return {
        kept: typed.get(form) ?? null,
        problem: refusal?.form === form ? refusal.problem : null,
        onKeep: (words: TypedVerdict) => void typed.set(form, words),
      };
    },
  };
}
export type BegunVerdict = ReturnType<typeof useBegunVerdict>;
