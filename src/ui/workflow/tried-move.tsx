"use client";
import { Check, X, Zap } from "lucide-react";
import { useState } from "react";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { followUpWords } from "@/core/workflow/follow-ups/table";
import type { Ask } from "@/core/workflow/refusal";
import { requirementWords } from "@/core/workflow/requirements/table";
import { triggerWords } from "@/core/workflow/trigger";
import type { TriedMove } from "@/core/workflow/try-item";
import type { Workflow } from "@/core/workflow/workflow";
import { AskForm } from "@/ui/item/ask-form";
import { Button } from "@/ui/kit/button";
import type { Tried } from "./use-tried";

/** What answers would make possible; null where something else stands in the way. */
function asksOf({ notForYou, requirements }: TriedMove): Ask[] | null {
  const open = requirements.filter((r) => !r.met);
  if (notForYou || open.some((r) => r.asks.length === 0)) return null;
  return open
    .flatMap((r) => r.asks)
    .filter((ask, i, all) => all.findIndex((other) => other.field === ask.field) === i);
}

/**
 * A move that leads on from here, with its rules answered one by one; what can be answered is asked
 * for as at a drop on the board.
 */
export function TriedMoveLine({
  move,
  draft,
  vocabulary,
  onGo,
}: {
  move: TriedMove;
  draft: Workflow;
  vocabulary: Vocabulary;
  onGo: Tried["go"];
}) {
  const [answering, setAnswering] = useState(false);
  const { verb, triggers, followUps } = move.transition;
  const asks = asksOf(move);
  const asked = answering && asks !== null && asks.length > 0 ? asks : null;
  const begin = () => (move.possible ? void onGo(move, {}) : setAnswering(true));
  return (
    <li className="border-t border-line py-1.5" data-tried-move={verb}>
      <div className="flex items-center gap-2">
        <span className="flex-1 font-semibold">
          {verb} → {draft.states.find((s) => s.id === move.to)?.name}
        </span>
        {!asked && (
          <Button
            small
            look={move.possible ? "accent" : "plain"}
            disabled={asks === null}
            onClick={begin}
          >
            {move.possible || asks === null ? "Make this move" : "Answer and move"}
          </Button>
        )}
      </div>
      {move.notForYou && <Answer yes={false} words={move.notForYou} reason="" />}
      {move.requirements.map((r, i) => (
        <Answer
          key={i}
          yes={r.met}
          words={requirementWords(r.requirement, vocabulary)}
          reason={r.reason}
        />
      ))}
      {asked && (
        <div className="my-1 max-w-[420px] border-l-[3px] border-accent bg-sheet px-3 py-2">
          <AskForm
            asks={asked}
            names={vocabulary}
            verb={verb}
            onAnswer={({ answers }) => void onGo(move, answers)}
            onCancel={() => setAnswering(false)}
          />
        </div>
      )}
      {triggers.map((t, i) => (
        <p key={i} className="flex items-start gap-1.5 text-[13px] text-ink-soft">
          <Zap size={13} className="mt-0.5 shrink-0" aria-hidden="true" /> waits to happen by itself
          when {triggerWords(t)}
        </p>
      ))}
      {followUps.length > 0 && (
        <em className="block text-[13px] text-ink-soft">
          then {followUps.map((f) => followUpWords(f, vocabulary)).join(", ")}
        </em>
      )}
    </li>
  );
}

function Answer({ yes, words, reason }: { yes: boolean; words: string; reason: string }) {
  return (
    <p className="flex items-start gap-1.5 text-[13px]">
      {yes ? (
        <Check size={14} className="mt-0.5 shrink-0 text-accent" aria-label="yes:" />
      ) : (
        <X size={14} className="mt-0.5 shrink-0 text-alarm" aria-label="no:" />
      )}
      <span>
        {words}
        {!yes && reason && <span className="text-ink-soft">. {reason}</span>}
      </span>
    </p>
  );
}
