"use client";
import type { ReportView } from "@/core/intake/desk-view";
import { VERDICT_PAST } from "@/core/intake/verdict";
import { Button } from "@/ui/kit/button";
import { Note } from "@/ui/kit/note";
import { ago } from "@/ui/kit/time";

/** A verdict that somebody gave while the report was open here. */
export type Meanwhile = ReportView["verdicts"][number];

/**
 * Says that somebody else has judged the report that is open. It stays open, with what was typed:
 * no verdict is given on anything else.
 */
export function JudgedMeanwhile({
  verdict: { kind, by, at },
  now,
  begun,
  onSee,
  onTakeBack,
  onNext,
}: {
  verdict: Meanwhile;
  now: number;
  /** Whether a verdict of one's own is open. */
  begun: boolean;
  onSee: () => void;
  onTakeBack: () => void;
  onNext: () => void;
}) {
  return (
    <Note kind="look">
      <p>
        <b>
          {by ?? "A rule"} {VERDICT_PAST[kind]} this {ago(at, now)}.
        </b>{" "}
        {begun && "What you typed is kept."}
      </p>
      <p className="mt-1.5 flex flex-wrap gap-2">
        <Button small onClick={onSee}>
          See what became of it
        </Button>
        <Button small onClick={onTakeBack}>
          {begun ? "Take theirs back, to give mine" : "Take theirs back"}
        </Button>
        <Button small look="strong" onClick={onNext}>
          Next report
        </Button>
      </p>
    </Note>
  );
}
