"use client";
import { X } from "lucide-react";
import type { CheckSurroundings } from "@/core/workflow/finding";
import type { Mover } from "@/core/workflow/requirement";
import { moversWords } from "@/core/workflow/words";
import type { Transition } from "@/core/workflow/workflow";
import { AddMenu } from "@/ui/kit/add-menu";

function moverOptions({ vocabulary }: CheckSurroundings) {
  const fixed: [Mover, string][] = [
    [{ kind: "role", role: "lead" }, "a lead"],
    [{ kind: "assignee" }, "the assignee"],
    [{ kind: "not the assignee" }, "anyone but the assignee"],
    [{ kind: "reviewer" }, "the reviewer"],
    [{ kind: "requester" }, "whoever asked for it"],
  ];
  return [
    ...fixed.map(([m, label]) => ({ value: JSON.stringify(m), label })),
    ...vocabulary.teams.map((team) => ({
      value: JSON.stringify({ kind: "team", teamId: team.id }),
      label: `somebody of ${team.name}`,
    })),
  ];
}

/** Who may make a move; anybody of those who are named. */
export function Movers({
  around,
  transition,
  set,
  mayEdit,
}: {
  around: CheckSurroundings;
  transition: Transition;
  set: (change: Partial<Transition>) => void;
  mayEdit: boolean;
}) {
  const { vocabulary } = around;
  const { who } = transition;
  return (
    <fieldset>
      <legend className="text-[12px] font-semibold">Who may make it</legend>
      <p className="text-[13px]">{moversWords(who, vocabulary) ?? "everyone who works here"}</p>
      <div className="flex flex-wrap gap-1">
        {who.map((m, i) => (
          <button
            key={i}
            type="button"
            disabled={!mayEdit}
            className="inline-flex items-center gap-1 rounded-[3px] border border-line px-1.5 text-[12.5px]"
            aria-label={`Not ${moversWords([m], vocabulary)}`}
            onClick={() => set({ who: who.filter((_, j) => j !== i) })}
          >
            {moversWords([m], vocabulary)} <X size={12} aria-hidden="true" />
          </button>
        ))}
        {mayEdit && (
          <AddMenu
            label={who.length > 0 ? "or…" : "only…"}
            options={moverOptions(around)}
            onAdd={(value) => set({ who: [...who, JSON.parse(value) as Mover] })}
          />
        )}
      </div>
    </fieldset>
  );
}
