"use client";
import { useState } from "react";
import { alertsContract } from "@/core/alerts/contract";
import type { OwnRule } from "@/core/alerts/own-rule";
import type { TrialView } from "@/core/alerts/rules-view";
import { Button } from "@/ui/kit/button";
import { FormProblem } from "@/ui/kit/note";
import { ask, problemOf } from "@/ui/kit/request";
import { ago } from "@/ui/kit/time";

/**
 * Tries a rule on what happened lately: how often it would have told, and of what.
 * @param ruleNow the rule as it stands; null where it is none yet, which its form says
 * @param changed differs when the rule does, so that no answer stands beside another rule
 */
export function RuleTrial({
  ruleNow,
  changed,
}: {
  ruleNow: () => OwnRule | null;
  changed: string;
}) {
  const [trial, setTrial] = useState<{ of: string; told: TrialView } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const tryIt = async () => {
    const rule = ruleNow();
    if (!rule) return;
    setBusy(true);
    setProblem(null);
    try {
      setTrial({ of: changed, told: await ask(alertsContract.tryRule, { body: { rule } }) });
    } catch (error) {
      setProblem(problemOf(error).sentence);
    }
    setBusy(false);
  };
  const told = trial?.of === changed ? trial.told : null;
  return (
    <div className="flex flex-col gap-2">
      <div className="flex items-center gap-3">
        <Button small disabled={busy} aria-busy={busy || undefined} onClick={() => void tryIt()}>
          Try it on the last 30 days
        </Button>
        <p aria-live="polite" className="text-[13px]">
          {busy ? "Looking back …" : told ? <strong>{told.words}</strong> : null}
        </p>
      </div>
      <FormProblem>{problem}</FormProblem>
      {told && told.latest.length > 0 && (
        <ul aria-label="The latest of it" className="rule-trial">
          {told.latest.map(({ itemKey, title, at, lines }, i) => (
            <li key={i}>
              <span className="key">{itemKey}</span>
              <span className="truncate">
                {title}
                <span className="text-ink-soft">
                  {" "}
                  {lines.map(({ who, words }) => [who, words].filter(Boolean).join(" ")).join("; ")}
                </span>
              </span>
              <time className="text-ink-soft">{ago(at, told.now)}</time>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
