"use client";

import { isLimited, limitOfState, stateLimitOf } from "@/core/board/limit";
import { usualLevel } from "@/core/board/limited";
import type { ItemType } from "@/core/item/item-type";
import type { CheckSurroundings } from "@/core/workflow/finding";
import { isInProgress, STATE_KINDS, type StateKind } from "@/core/workflow/state";
import { CommitNumber, CommitText } from "@/ui/kit/commit-input";
import { Field, TextInput } from "@/ui/kit/field";
import { namedOptions, Select, wordOptions } from "@/ui/kit/select";
import type { State } from "@/core/workflow/state";
import { FixedDatesChoice, LevelChoice, levelsOf, UnitChoice } from "./counting-choices";

/** What a state is called, what kind it is, who works there, and for how long. */
export function StateFields({
  stages,
  state,
  types,
  around,
  mayEdit,
  set,
}: {
  stages: readonly string[];
  state: State;
  types: readonly ItemType[];
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
      {isInProgress(state.kind) && (
        <Field label="Whose hands it is in" className="col-span-full">
          <Select
            value={state.byReviewer ? "reviewer" : "assignee"}
            disabled={!mayEdit}
            options={[
              { value: "assignee", label: "the assignee's" },
              { value: "reviewer", label: "the reviewer's" },
            ]}
            onChange={(who) => set({ byReviewer: who === "reviewer" })}
          />
        </Field>
      )}
      {state.kind !== "finished" && (
        <TimesAndLimit state={state} types={types} mayEdit={mayEdit} set={set} />
      )}
    </div>
  );
}

/** How long items are expected to stand in a state, and how many at most. */
function TimesAndLimit({
  state,
  types,
  mayEdit,
  set,
}: {
  state: State;
  types: readonly ItemType[];
  mayEdit: boolean;
  set: (change: Partial<State>) => void;
}) {
  const limit = limitOfState(state.limit);
  const counts = limit.unit === "size" ? "size" : "items";
  const setLimit = (change: Partial<typeof limit>) => {
    const next = { ...limit, ...change };
    // A bound that would pass the other one takes it along.
    const crossed = next.min !== null && next.max !== null && next.min > next.max;
    const bound = "max" in change ? { min: next.max } : { max: next.min };
    set({ limit: stateLimitOf({ ...next, ...(crossed && bound) }) });
  };
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
      <Limit
        of={{ number: `At most, ${counts}`, kind: "The maximum is" }}
        value={limit.max}
        firm={limit.maxFirm}
        mayEdit={mayEdit}
        onChange={(max, maxFirm) => setLimit({ max: max === 0 ? null : max, maxFirm })}
      />
      <Limit
        of={{ number: `At least, ${counts}`, kind: "The minimum is" }}
        value={limit.min}
        firm={limit.minFirm}
        mayEdit={mayEdit}
        onChange={(min, minFirm) => setLimit({ min, minFirm })}
      />
      {isLimited(limit) && (
        <>
          <Field label="What counts">
            <UnitChoice
              value={limit.unit}
              mayEdit={mayEdit}
              onChange={(unit) => setLimit({ unit })}
            />
          </Field>
          {levelsOf(types).length > 1 && (
            <Field label="Which items">
              <LevelChoice
                types={types}
                value={limit.level ?? usualLevel(types.map((t) => t.level))}
                mayEdit={mayEdit}
                onChange={(level) => setLimit({ level })}
              />
            </Field>
          )}
          <Field label="Fixed dates">
            <FixedDatesChoice
              value={limit.fixedDatePasses}
              mayEdit={mayEdit}
              onChange={(fixedDatePasses) => setLimit({ fixedDatePasses })}
            />
          </Field>
        </>
      )}
    </>
  );
}

/** One bound of a limit, and whether it refuses. */
function Limit({
  of,
  value,
  firm,
  mayEdit,
  onChange,
}: {
  of: { number: string; kind: string };
  value: number | null;
  firm: boolean;
  mayEdit: boolean;
  onChange: (value: number | null, firm: boolean) => void;
}) {
  return (
    <>
      <Field label={of.number}>
        <CommitNumber
          value={value}
          disabled={!mayEdit}
          onCommit={(n) => onChange(n === null ? null : Math.round(n), firm)}
        />
      </Field>
      <Field label={of.kind}>
        <Select
          value={firm ? "firm" : "advice"}
          disabled={!mayEdit || value === null}
          options={wordOptions(["advice", "firm"])}
          onChange={(kind) => onChange(value, kind === "firm")}
        />
      </Field>
    </>
  );
}
