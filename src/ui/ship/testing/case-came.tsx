import { STALE_WORDS } from "@/core/ship/testing/case-standing";
import type { ItemCase } from "@/core/ship/testing/testing-view";
import { VERDICT_WORDS } from "@/core/ship/testing/verdict";
import { TextButton } from "@/ui/kit/button";
import { ago } from "@/ui/kit/time";

/** What came of a case of an item the last time, and what machines say. */
export function CaseCame({ of, now }: { of: ItemCase; now: number }) {
  const { last, stale, machines } = of;
  return (
    <>
      {last ? (
        <>
          <span className={last.verdict === "failed" ? "font-semibold text-alarm" : undefined}>
            {last.verdict === null ? "not tried to its end" : VERDICT_WORDS[last.verdict]}
          </span>{" "}
          {ago(last.at, now)} by {last.by}
          {last.build && `, build ${last.build}`}
          {stale && <b className="text-signal-ink"> · {STALE_WORDS[stale]}</b>}
        </>
      ) : (
        "never tried for it"
      )}
      {machines.length > 0 && ` · ${machineWords(machines)}`}
    </>
  );
}

/** "by machine: passed" */
function machineWords(machines: ItemCase["machines"]): string {
  const results = machines.flatMap(({ last }) => last?.result ?? []);
  const unsteady = machines.filter(({ changedMind }) => changedMind > 0).length;
  const worst = results.includes("failed") ? "failed" : (results[0] ?? "no result yet");
  return `by machine: ${worst}${unsteady > 0 ? ", unsteady" : ""}`;
}

/** What unlinks a case from an item, for whoever may. */
export const TakeAway = ({ caseKey, onTakeAway }: { caseKey: string; onTakeAway?: () => void }) =>
  onTakeAway && (
    <TextButton className="text-[12.5px]" aria-label={`Take away ${caseKey}`} onClick={onTakeAway}>
      Take away
    </TextButton>
  );
