"use client";
import type { ReportView } from "@/core/intake/desk-view";
import { reportContract } from "@/core/intake/contract";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";
import { PartsField } from "./parts-field";

/** The parts of the product that a report is about: said here, they go with it to its item. */
export function ReportParts({
  view: { report, saidParts, parts, suggested },
  projectKey,
  mayJudge,
  onChanged,
}: {
  view: ReportView;
  projectKey: string;
  mayJudge: boolean;
  onChanged: () => Promise<void>;
}) {
  const say = async (said: string[] | null) => {
    await ask(reportContract.sayParts, { params: { id: report.id }, body: { parts: said } });
    await onChanged();
  };
  const change = async (said: string[]) => {
    try {
      await say(said);
      const words = said.length > 0 ? said.join(", ") : "no part of the product";
      tellDone(`${report.reference} is about ${words}.`, () => say(saidParts));
    } catch (problem) {
      tellProblem(problem);
    }
  };
  const locked = !mayJudge;
  if (locked && parts.length === 0) return null;
  const bySelf = saidParts === null && parts.length > 0;
  return (
    <div className="mt-1">
      <PartsField
        {...{ projectKey, suggested, locked }}
        value={parts}
        hint={bySelf ? "by its place:" : undefined}
        onChange={(said) => void change(said)}
      />
    </div>
  );
}
