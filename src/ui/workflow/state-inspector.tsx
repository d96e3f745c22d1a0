"use client";
import { Check } from "@/ui/kit/check";
import type { ItemType } from "@/core/item/item-type";
import { changeState } from "@/core/workflow/edit";
import type { CheckSurroundings } from "@/core/workflow/finding";
import { OUTCOMES, type State } from "@/core/workflow/state";
import { StationMark } from "./station-mark";
import type { Designer } from "./use-designer";
import { StateFields } from "@/ui/workflow/state-fields";
import { Policies } from "@/ui/workflow/policies";
import { MovesOut } from "@/ui/workflow/moves-out";

/** Everything that can be said of a state, and the moves that lead out of it. */
export function StateInspector({
  designer,
  state,
  types,
  around,
  mayEdit,
}: {
  designer: Designer;
  state: State;
  /** The types whose items go through it. */
  types: readonly ItemType[];
  around: CheckSurroundings;
  mayEdit: boolean;
}) {
  const { draft, edit } = designer;
  const set = (change: Partial<State>) => edit((w) => changeState(w, state.id, change));
  const stages = [...new Set(draft.states.flatMap((s) => (s.stage ? [s.stage] : [])))];
  return (
    <div className="flex flex-col gap-5" data-inspects={state.name}>
      <section className="flex flex-col gap-2">
        <h2 className="flex items-center gap-2 text-[15px]">
          <StationMark kind={state.kind} size={16} /> {state.name}
        </h2>
        <StateFields
          stages={stages}
          state={state}
          types={types}
          around={around}
          mayEdit={mayEdit}
          set={set}
        />
        <OutcomesAllowed state={state} mayEdit={mayEdit} set={set} />
        <Policies
          title="Agreed before it enters"
          policies={state.entryPolicies}
          mayEdit={mayEdit}
          onChange={(entryPolicies) => set({ entryPolicies })}
        />
        <Policies
          title="Agreed before it leaves"
          policies={state.exitPolicies}
          mayEdit={mayEdit}
          onChange={(exitPolicies) => set({ exitPolicies })}
        />
      </section>
      <MovesOut designer={designer} state={state} around={around} mayEdit={mayEdit} />
    </div>
  );
}

/** How items may end in a finished state. */
function OutcomesAllowed({
  state,
  mayEdit,
  set,
}: {
  state: State;
  mayEdit: boolean;
  set: (change: Partial<State>) => void;
}) {
  if (!(state.kind === "finished")) return null;
  return (
    <fieldset>
      <legend className="text-[12px] font-semibold">Outcomes allowed here</legend>
      {OUTCOMES.map((o) => (
        <Check
          key={o}
          disabled={!mayEdit}
          checked={state.outcomes.includes(o)}
          onChange={(on) =>
            set({
              outcomes: on
                ? OUTCOMES.filter((x) => x === o || state.outcomes.includes(x))
                : state.outcomes.filter((x) => x !== o),
            })
          }
          className="mr-3"
        >
          {o}
        </Check>
      ))}
    </fieldset>
  );
}
