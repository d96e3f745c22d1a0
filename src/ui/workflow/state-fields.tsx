"use client";

import type { CheckSurroundings } from "@/core/workflow/finding";
import { STATE_KINDS, type StateKind } from "@/core/workflow/state";
import { CommitNumber, CommitText } from "@/ui/kit/commit-input";
import { Field, TextInput } from "@/ui/kit/field";
import { namedOptions, Select, wordOptions } from "@/ui/kit/select";
import type { State } from "@/core/workflow/state";

/** What a state is called, what kind it is, who works there, and for how long. */
export function StateFields({
  stages,
  state,
  around,
  mayEdit,
  set,
}: {
  stages: readonly string[];
  state: State;
  around: CheckSurroundings;
  mayEdit: boolean;
  set: (change: Partial<State>) => void;
}) {
  return (
    <div className="grid grid-cols-2 gap-2">
      <Field label="Name" className="col-span-full">
        <CommitText
          value={state.name}
          disabled={!mayEdit}
          required
          onCommit={(name) => set({ name })}
        />
      </Field>
      <Field label="Kind">
        <Select
          value={state.kind}
          disabled={!mayEdit}
          options={wordOptions(STATE_KINDS)}
          onChange={(kind) => set({ kind: kind as StateKind })}
        />
      </Field>
      <Field label="Stage">
        <TextInput
          list="stages"
          disabled={!mayEdit}
          maxLength={60}
          defaultValue={state.stage ?? ""}
          key={`${state.id} ${state.stage}`}
          onBlur={(e) =>
            (e.target.value.trim() || null) !== state.stage &&
            set({ stage: e.target.value.trim() || null })
          }
        />
        <datalist id="stages">
          {stages.map((s) => (
            <option key={s} value={s} />
          ))}
        </datalist>
      </Field>
      <Field label="Who works here" className="col-span-full">
        <Select
          value={state.teamId ?? ""}
          disabled={!mayEdit}
          options={[
            { value: "", label: "whoever is there" },
            ...namedOptions(around.vocabulary.teams),
          ]}
          onChange={(id) => set({ teamId: id || null })}
        />
      </Field>
      {state.kind !== "finished" && <TimesAndLimit state={state} mayEdit={mayEdit} set={set} />}
    </div>
  );
}

/** How long items are expected to stand in a state, and how many at most. */
function TimesAndLimit({
  state,
  mayEdit,
  set,
}: {
  state: State;
  mayEdit: boolean;
  set: (change: Partial<State>) => void;
}) {
  return (
    <>
      <Field label="Expected days">
        <CommitNumber
          value={state.expectedDays}
          disabled={!mayEdit}
          step="any"
          onCommit={(n) => set({ expectedDays: n || null })}
        />
      </Field>
      <Field label="Too old after, days">
        <CommitNumber
          value={state.tooOldDays}
          disabled={!mayEdit}
          step="any"
          onCommit={(n) => set({ tooOldDays: n || null })}
        />
      </Field>
      <Field label="Limit of items">
        <CommitNumber
          value={state.limit?.max ?? null}
          disabled={!mayEdit}
          min={1}
          onCommit={(n) =>
            set({
              limit: n === null ? null : { max: Math.round(n), firm: state.limit?.firm ?? false },
            })
          }
        />
      </Field>
      <Field label="The limit is">
        <Select
          value={state.limit?.firm ? "firm" : "advice"}
          disabled={!mayEdit || !state.limit}
          options={wordOptions(["advice", "firm"])}
          onChange={(v) => state.limit && set({ limit: { ...state.limit, firm: v === "firm" } })}
        />
      </Field>
    </>
  );
}
