"use client";
import { FormProblem } from "@/ui/kit/note";
import { Button, TextButton } from "@/ui/kit/button";
import { useState } from "react";
import type { PastRefusal, ReplayView } from "@/core/workflow/replay";
import { ask, problemOf, type Problem } from "@/ui/kit/request";
import { usePanel } from "@/ui/kit/panel-context";
import type { Designer } from "./use-designer";
import { workflowContract } from "@/core/workflow/contract";
import {
  REQUIREMENT_KINDS,
  requirementKindOf,
  type RequirementKind,
} from "@/core/workflow/requirements/table";

const BY_WORDS = {
  ...(Object.fromEntries(
    REQUIREMENT_KINDS.map((kind) => [kind, requirementKindOf(kind).refused]),
  ) as Record<RequirementKind, string>),
  "no such move": "the move does not exist",
  "not for them": "it was not for that person",
  "state is gone": "a state is gone",
} satisfies Record<PastRefusal["by"], string>;

/**
 * The moves of the past under the draft: how many would have been refused, by which rule, of which
 * items and whom.
 */
export function ReplayPanel({
  designer,
  projectKey,
  workflowId,
  nameOf,
}: {
  designer: Designer;
  projectKey: string;
  workflowId: string;
  nameOf: (personId: string) => string;
}) {
  const { openBehind } = usePanel();
  const [result, setResult] = useState<ReplayView | null>(null);
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<Problem | null>(null);
  const run = async (days: number) => {
    setBusy(true);
    setTrouble(null);
    try {
      setResult(
        await ask(workflowContract.replay, {
          params: { key: projectKey },
          query: { workflow: workflowId, days },
        }),
      );
    } catch (error) {
      setTrouble(problemOf(error));
    }
    setBusy(false);
  };
  const groups = new Map<string, PastRefusal[]>();
  for (const r of result?.refusals ?? []) {
    const verb = designer.draft.transitions.find((t) => t.id === r.transitionId)?.verb;
    const words = verb ? `“${verb}”: ${BY_WORDS[r.by]}` : BY_WORDS[r.by];
    groups.set(words, [...(groups.get(words) ?? []), r]);
  }
  const most = (refusals: PastRefusal[]) => {
    const count = new Map<string, number>();
    for (const { actorId } of refusals)
      if (actorId) count.set(actorId, (count.get(actorId) ?? 0) + 1);
    const [first] = [...count].sort((a, b) => b[1] - a[1]);
    return first ? `most often ${nameOf(first[0])}, ${first[1]}` : "";
  };
  const share = (n: number) =>
    result && result.moves > 0 ? `${Math.round((100 * n) / result.moves)} %` : "–";
  return (
    <section aria-label="Against the past" className="mt-6">
      <h2 className="sr-only">Against the past</h2>
      <p className="text-[12.5px] text-ink-soft">
        How this draft would have treated the moves that were made.
      </p>
      <div className="my-1.5 flex gap-1">
        {[30, 90, 365].map((days) => (
          <Button
            key={days}
            disabled={busy || designer.saving !== "stored"}
            aria-pressed={result?.days === days}
            small
            onClick={() => void run(days)}
          >
            {days} days
          </Button>
        ))}
      </div>
      {busy && <p className="text-ink-soft">Walking through the moves…</p>}
      {trouble && (
        <FormProblem>
          {trouble.sentence} {trouble.help}
        </FormProblem>
      )}
      {result && !busy && (
        <>
          {result.moves === 0 && (
            <p className="text-ink-soft">Nobody moved anything in these {result.days} days.</p>
          )}
          {result.moves > 0 && (
            <dl className="grid grid-cols-[auto_1fr_auto] items-center gap-x-2 text-[13px]">
              <dt>allowed</dt>
              <Bar share={result.allowed / result.moves} colour="var(--accent)" />
              <dd className="text-right font-semibold">{result.allowed.toLocaleString("en")}</dd>
              <dt>refused</dt>
              <Bar share={result.refusals.length / result.moves} colour="var(--alarm)" />
              <dd className="text-right font-semibold">
                {result.refusals.length.toLocaleString("en")}
              </dd>
            </dl>
          )}
          <ul className="mt-2 flex flex-col gap-1.5">
            {[...groups]
              .sort((a, b) => b[1].length - a[1].length)
              .map(([words, refusals]) => (
                <li key={words} className="border-t border-line pt-1 text-[13px]">
                  <TextButton
                    className="text-left"
                    onClick={() =>
                      openBehind({ title: words, ids: [...new Set(refusals.map((r) => r.itemId))] })
                    }
                  >
                    <b>{refusals.length}</b> ({share(refusals.length)}) {words}
                  </TextButton>
                  <span className="block text-[12px] text-ink-soft">{most(refusals)}</span>
                </li>
              ))}
          </ul>
          {Object.entries(result.followUps).map(([kind, n]) => (
            <p key={kind} className="text-[12.5px] text-ink-soft">
              “{kind}” would have run {n === 1 ? "once" : `${n} times`}.
            </p>
          ))}
        </>
      )}
    </section>
  );
}

function Bar({ share, colour }: { share: number; colour: string }) {
  return (
    <span className="block h-2 bg-well" aria-hidden="true">
      <span
        className="block h-2"
        style={{ width: `${Math.max(share > 0 ? 1 : 0, share * 100)}%`, background: colour }}
      />
    </span>
  );
}
