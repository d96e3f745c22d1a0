"use client";
import { Button } from "@/ui/kit/button";
import { useState } from "react";
import { problemOf, type Problem } from "@/ui/kit/request";
import { AskForm, withMore, type Answers } from "./ask-form";
import { ReadyButton } from "./ready-button";
import type { ItemHandle } from "./use-item";
import type { ItemView } from "@/core/item/item-view";

/** The moves that exist from where the item is; what a move still needs is asked for right here. */
export function MoveButtons({
  handle,
  quiet = false,
}: {
  handle: ItemHandle;
  /** Where something else is what the page is for. */
  quiet?: boolean;
}) {
  const { view, send } = handle;
  const [busy, setBusy] = useState(false);
  const [stopped, setStopped] = useState<{
    transition: ItemView["transitions"][number];
    problem: Problem;
    given: Answers;
  } | null>(null);
  const go = async (
    transition: ItemView["transitions"][number],
    given: Answers = { answers: {} },
  ) => {
    setBusy(true);
    try {
      await send(
        { kind: "move", from: view.item.stateId, to: transition.to, ...given },
        `${view.key} is in ${transition.toName} now.`,
      );
      setStopped(null);
    } catch (error) {
      setStopped({ transition, problem: problemOf(error), given });
    }
    setBusy(false);
  };
  if (!view.rights.move || view.item.withdrawnAt !== null) return null;
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap gap-1.5" data-moves="">
        {view.transitions.map((t, i) => (
          <Button
            key={t.id}
            disabled={busy}
            onClick={() => void go(t)}
            small
            look={i === 0 && !quiet ? "accent" : "plain"}
            title={`to ${t.toName}`}
          >
            {t.verb}
          </Button>
        ))}
        <ReadyButton handle={handle} />
      </div>
      {stopped && (
        <div
          role="alert"
          className={`border-l-[3px] px-3 py-2 ${stopped.problem.asks.length > 0 ? "border-accent bg-accent-soft" : "border-alarm bg-alarm-soft"}`}
        >
          <p className="font-semibold">{stopped.problem.sentence}</p>
          <p className="mb-2 text-[13px]">{stopped.problem.help}</p>
          {stopped.problem.asks.length > 0 ? (
            <AskForm
              key={stopped.problem.sentence}
              asks={stopped.problem.asks}
              names={view}
              verb={stopped.transition.verb}
              onCancel={() => setStopped(null)}
              onAnswer={(more) => void go(stopped.transition, withMore(stopped.given, more))}
            />
          ) : (
            <Button small onClick={() => setStopped(null)}>
              Leave it where it is
            </Button>
          )}
        </div>
      )}
    </div>
  );
}
