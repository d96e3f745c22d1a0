"use client";
import { useEffect, useRef, useState, type FormEvent } from "react";
import { dayNumber } from "@/core/calendar/zone";
import type { DeskView, ReportView } from "@/core/intake/desk-view";
import { afterVerdict, type Verdict, type VerdictKind } from "@/core/intake/verdict";
import { UNJUDGED } from "@/core/intake/report";
import { isRefusal } from "@/core/workflow/refusal";
import { Button } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { FormProblem } from "@/ui/kit/note";
import type { Problem } from "@/ui/kit/request";
import { BreaksPromise } from "./breaks-promise";
import { ToldByVerdict } from "./told-by-verdict";
import {
  firstTyped,
  lacksItem,
  verdictOf,
  type TypedVerdict,
  type VerdictBegun,
} from "./typed-verdict";
import { VerdictFields } from "./verdict-fields";

export const VERDICT_BUTTONS: { kind: VerdictKind; label: string; key: string; does: string }[] = [
  { kind: "accept", label: "Accept", key: "a", does: "Accept into backlog" },
  { kind: "merge", label: "Merge", key: "m", does: "Merge as duplicate" },
  { kind: "ask", label: "Ask", key: "q", does: "Send the question" },
  { kind: "park", label: "Park", key: "p", does: "Park until then" },
  { kind: "decline", label: "Decline", key: "d", does: "Decline with this reason" },
];

/** What the button that gives a verdict says that it does. */
function doesWords(
  kind: VerdictKind,
  { acceptance, target, awaited, watched }: TypedVerdict,
  desk: DeskView,
) {
  const { found } = acceptance;
  if (kind === "accept" && found?.where === "in work") {
    const parent = desk.inWork.find((i) => i.id === found.itemId);
    return parent ? `Make it a task under ${parent.key}` : "Make it a task under that item";
  }
  if (kind === "accept" && (acceptance.onBoard || found?.where === "fix now"))
    return "Accept onto the board";
  if (kind === "merge" && target) return `Merge into ${target.key}`;
  if (kind === "park" && watched && awaited === null) return "Watch for it until then";
  if (kind === "park" && awaited?.item) return `Park until ${awaited.item.key} is done`;
  return VERDICT_BUTTONS.find((b) => b.kind === kind)!.does;
}

interface Props {
  begun: VerdictBegun;
  several: number;
  /** Whether no verdict can be given now: somebody else has given one meanwhile. */
  held: boolean;
  desk: DeskView;
  view: ReportView;
  /** What was typed before, and why it was refused. */
  kept: TypedVerdict | null;
  problem: Problem | null;
  onKeep: (typed: TypedVerdict) => void;
  onVerdict: (verdict: Verdict, together: boolean) => void;
  onCancel: () => void;
}

/**
 * What a verdict needs, asked for on the desk itself; what was typed stays until the verdict is
 * stored.
 */
export function VerdictForm({
  begun,
  several,
  held,
  desk,
  view,
  kept,
  problem,
  onKeep,
  onVerdict,
  onCancel,
}: Props) {
  const { kind } = begun;
  const [typed, setTyped] = useState<TypedVerdict>(() => {
    const first = firstTyped(desk, view, begun, several > 1);
    if (!kept) return first;
    // What was pressed to begin it is meant, whatever was typed before.
    return {
      ...kept,
      target: begun.itemId ? first.target : kept.target,
      text: begun.reason ?? kept.text,
      watched: begun.watched ?? kept.watched,
    };
  });
  const set = (change: Partial<TypedVerdict>) => {
    const next = { ...typed, ...change };
    setTyped(next);
    onKeep(next);
  };
  const { together } = typed;
  const form = useRef<HTMLFormElement>(null);
  // Also when it goes on after another's verdict was taken back.
  useEffect(() => {
    if (held) return;
    form.current
      ?.querySelector<HTMLElement>("[data-first],input,textarea,[role=combobox],[aria-haspopup]")
      ?.focus();
  }, [held]);

  const verdict = verdictOf(kind, typed);
  // What can be seen to be wrong is said here, before the next report is opened.
  const [wrong, setWrong] = useState<Problem["sentence"] | null>(null);
  const give = (event?: FormEvent) => {
    event?.preventDefault();
    if (held || lacksItem(kind, typed) || !form.current?.reportValidity()) return;
    const today = dayNumber(desk.now, desk.project.zone);
    const after = afterVerdict(UNJUDGED, verdict, "item", today);
    if (isRefusal(after)) return setWrong(`${after.sentence} ${after.help}`);
    onVerdict(verdict, together);
  };
  return (
    <form
      ref={form}
      aria-label={VERDICT_BUTTONS.find((b) => b.kind === kind)!.label}
      onSubmit={give}
      onKeyDown={(e) => {
        if (e.key === "Escape") {
          e.preventDefault();
          onCancel();
        }
        if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) give();
      }}
      className="flex flex-col gap-3 border-b border-line bg-sheet px-5 py-3"
    >
      {several > 1 && (
        <p className="text-[13px]">
          <b>On all {several} selected reports.</b>{" "}
          {kind === "accept" && (
            <Check checked={together} onChange={(on) => set({ together: on })}>
              one item for all of them: the first becomes it, the others are merged into it
            </Check>
          )}
        </p>
      )}
      <VerdictFields
        kind={kind}
        several={several > 1 && !together}
        desk={desk}
        view={view}
        typed={typed}
        set={set}
      />
      {several <= 1 && (
        <BreaksPromise reportId={view.report.id} verdict={verdict} zone={desk.project.zone} />
      )}
      <ToldByVerdict verdict={verdict} desk={desk} view={view} />
      {(wrong || problem) && (
        <FormProblem>
          {wrong ?? (
            <>
              <b>{problem!.sentence}</b> {problem!.errors[0]?.message ?? problem!.help}
            </>
          )}
        </FormProblem>
      )}
      <div className="flex items-center justify-end gap-2">
        <Button look="quiet" onClick={onCancel}>
          Back to reading
        </Button>
        <Button type="submit" disabled={held || lacksItem(kind, typed)} look="accent">
          {doesWords(kind, typed, desk)}
        </Button>
      </div>
    </form>
  );
}
