"use client";

import { v7 as newId } from "uuid";
import { connect, proposedVerb } from "@/core/workflow/edit";
import type { CheckSurroundings } from "@/core/workflow/finding";
import { requirementWords } from "@/core/workflow/requirements/table";
import { triggerWords } from "@/core/workflow/trigger";
import { followUpWords } from "@/core/workflow/follow-ups/table";
import { moversWords } from "@/core/workflow/words";
import { statesInOrder, transitionsFrom } from "@/core/workflow/workflow";
import { AddMenu } from "@/ui/kit/add-menu";
import { TextButton } from "@/ui/kit/button";
import { namedOptions } from "@/ui/kit/select";
import type { Designer } from "@/ui/workflow/use-designer";
import type { State } from "@/core/workflow/state";

/** The moves that lead out of a state, each with its rules in words. */
export function MovesOut({
  designer,
  state,
  around,
  mayEdit,
}: {
  designer: Designer;
  state: State;
  around: CheckSurroundings;
  mayEdit: boolean;
}) {
  const { draft, edit, select } = designer;
  const targets = statesInOrder(draft).filter(
    (s) =>
      s.id !== state.id &&
      !draft.transitions.some((t) => t.to === s.id && t.from?.includes(state.id)),
  );
  return (
    <section className="min-w-0">
      <h2 className="mb-1 text-[15px]">Moves out of “{state.name}”</h2>
      <ul>
        {transitionsFrom(draft, state.id).map((t) => {
          const who = moversWords(t.who, around.vocabulary);
          const rules = [
            ...(who ? [`only ${who}`] : []),
            ...t.requirements.map((r) => requirementWords(r, around.vocabulary)),
          ];
          return (
            <li key={t.id} className="border-t border-line py-1.5">
              <TextButton
                className="text-left font-semibold"
                onClick={() => select({ kind: "transition", id: t.id })}
              >
                {t.verb} → {draft.states.find((s) => s.id === t.to)?.name}
              </TextButton>
              {t.from === null && (
                <span className="text-[12.5px] text-ink-soft"> from anywhere</span>
              )}
              {rules.length > 0 && <span className="block text-[13px]">{rules.join("; ")}</span>}
              {t.triggers.length > 0 && (
                <em className="block text-[13px] text-ink-soft">
                  by itself when {t.triggers.map(triggerWords).join(", or when ")}
                </em>
              )}
              {t.followUps.length > 0 && (
                <em className="block text-[13px] text-ink-soft">
                  then {t.followUps.map((f) => followUpWords(f, around.vocabulary)).join(", ")}
                </em>
              )}
            </li>
          );
        })}
      </ul>
      {mayEdit && targets.length > 0 && (
        <div className="mt-2">
          <AddMenu
            label="Add a move to…"
            options={namedOptions(targets)}
            onAdd={(to) => {
              const id = newId();
              edit((w) =>
                connect(w, {
                  id,
                  from: state.id,
                  to,
                  verb: proposedVerb(
                    state,
                    draft.states.find((s) => s.id === to)!,
                  ),
                }),
              );
              select({ kind: "transition", id });
            }}
          />
        </div>
      )}
    </section>
  );
}
