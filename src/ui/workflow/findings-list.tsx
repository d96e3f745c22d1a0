"use client";
import { TextButton } from "@/ui/kit/button";
import { repair } from "@/core/workflow/repair";
import type { Finding, Repair, Severity } from "@/core/workflow/finding";
import { usePutOnBoard } from "@/ui/board/in-no-column";
import type { Designer } from "./use-designer";
import { v7 as newId } from "uuid";

const SEVERITY_WORDS: Record<Severity, string> = {
  trap: "Stops publishing",
  weak: "This will hurt",
  hint: "Worth a look",
};
const BAR: Record<Severity, string> = {
  trap: "border-alarm",
  weak: "border-signal",
  hint: "border-rest",
};

/**
 * What the check found in the draft: each finding shows its place, and mends itself where it can.
 */
export function FindingsList({
  designer,
  projectKey,
  mayEdit,
}: {
  designer: Designer;
  projectKey: string;
  mayEdit: boolean;
}) {
  const { findings, select, edit } = designer;
  const putOn = usePutOnBoard(projectKey);
  const mend = (how: Repair) => {
    if (how.kind === "show workflow") void putOn([how.workflowId]);
    else edit((w) => repair(w, { repair: how }, newId));
  };
  const show = ({ place }: Finding) => {
    if (place.stateId) select({ kind: "state", id: place.stateId });
    else if (place.transitionId) select({ kind: "transition", id: place.transitionId });
  };
  return (
    <section aria-label="Check of the draft">
      {findings.length === 0 && (
        <p className="text-ink-soft">Nothing to mend: every item can start, go on and end.</p>
      )}
      <ol className="flex flex-col gap-2.5">
        {findings.map((f, i) => (
          <li
            key={`${f.code} ${i}`}
            data-finding={f.code}
            className={`border-l-[3px] pl-2.5 ${BAR[f.severity]}`}
          >
            <p className="text-[12px] text-ink-soft">{SEVERITY_WORDS[f.severity]}</p>
            <p className="font-semibold leading-snug">{f.sentence}</p>
            <p className="flex gap-3 text-[13px]">
              {(f.place.stateId || f.place.transitionId) && (
                <TextButton onClick={() => show(f)}>Show</TextButton>
              )}
              {mayEdit && f.repair && (
                <TextButton onClick={() => mend(f.repair!)}>{f.repair.words}</TextButton>
              )}
            </p>
          </li>
        ))}
      </ol>
    </section>
  );
}
