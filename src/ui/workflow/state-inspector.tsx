"use client";
import { CommitText, CommitNumber } from "@/ui/kit/commit-input";
import { Select, wordOptions, namedOptions } from "@/ui/kit/select";
import { AddMenu } from "@/ui/kit/add-menu";
import { Button, TextButton } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { Field, TextInput } from "@/ui/kit/field";
import { Trash2, X } from "lucide-react";
import { useState } from "react";
import { changeState, connect, proposedVerb, removeState } from "@/core/workflow/edit";
import type { CheckSurroundings } from "@/core/workflow/finding";
import { statesInOrder, transitionsFrom } from "@/core/workflow/workflow";
import {
  OUTCOMES,
  STATE_KINDS,
  type Policy,
  type State,
  type StateKind,
} from "@/core/workflow/state";
import { followUpWords, moversWords } from "@/core/workflow/words";
import { triggerWords } from "@/core/workflow/trigger";
import { StationMark } from "./station-mark";
import type { Designer } from "./use-designer";
import { v7 as newId } from "uuid";
import { requirementWords } from "@/core/workflow/requirements/table";

/** Everything that can be said of a state, and the moves that lead out of it. */
export function StateInspector({
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
  const { draft, edit, addAfter, select } = designer;
  const set = (change: Partial<State>) => edit((w) => changeState(w, state.id, change));
  const stages = [...new Set(draft.states.flatMap((s) => (s.stage ? [s.stage] : [])))];
  const targets = statesInOrder(draft).filter(
    (s) =>
      s.id !== state.id &&
      !draft.transitions.some((t) => t.to === s.id && t.from?.includes(state.id)),
  );
  return (
    <div
      className="grid grid-cols-[minmax(0,300px)_minmax(0,1fr)] gap-6"
      data-inspects={state.name}
    >
      <section className="flex flex-col gap-2">
        <h2 className="flex items-center gap-2 text-[15px]">
          <StationMark kind={state.kind} size={16} /> {state.name}
        </h2>
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
          {state.kind !== "finished" && (
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
                      limit:
                        n === null
                          ? null
                          : { max: Math.round(n), firm: state.limit?.firm ?? false },
                    })
                  }
                />
              </Field>
              <Field label="The limit is">
                <Select
                  value={state.limit?.firm ? "firm" : "advice"}
                  disabled={!mayEdit || !state.limit}
                  options={wordOptions(["advice", "firm"])}
                  onChange={(v) =>
                    state.limit && set({ limit: { ...state.limit, firm: v === "firm" } })
                  }
                />
              </Field>
            </>
          )}
        </div>
        {state.kind === "finished" && (
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
        )}
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
        {mayEdit && (
          <div className="flex flex-wrap gap-2">
            <Button small onClick={() => addAfter(state)}>
              Add a state after it
            </Button>
            <Button
              look="danger"
              small
              onClick={() => {
                edit((w) => removeState(w, state.id));
                select(null);
              }}
            >
              <Trash2 size={13} aria-hidden="true" /> Take it out
            </Button>
          </div>
        )}
      </section>
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
    </div>
  );
}

/** Points that people tick on the item. */
function Policies({
  title,
  policies,
  mayEdit,
  onChange,
}: {
  title: string;
  policies: Policy[];
  mayEdit: boolean;
  onChange: (policies: Policy[]) => void;
}) {
  const [text, setText] = useState("");
  const add = () => {
    if (text.trim()) onChange([...policies, { id: newId(), text: text.trim() }]);
    setText("");
  };
  if (!mayEdit && policies.length === 0) return null;
  return (
    <fieldset>
      <legend className="text-[12px] font-semibold">{title}</legend>
      <ul>
        {policies.map((p) => (
          <li key={p.id} className="flex items-center gap-1">
            <CommitText
              value={p.text}
              label={`${title}: ${p.text}`}
              max={200}
              disabled={!mayEdit}
              required
              onCommit={(next) =>
                onChange(policies.map((x) => (x.id === p.id ? { ...x, text: next } : x)))
              }
            />
            {mayEdit && (
              <Button
                look="quiet"
                small
                className="!px-1"
                aria-label={`Take out: ${p.text}`}
                onClick={() => onChange(policies.filter((x) => x.id !== p.id))}
              >
                <X size={13} aria-hidden="true" />
              </Button>
            )}
          </li>
        ))}
      </ul>
      {mayEdit && (
        <TextInput
          aria-label={title}
          placeholder="Add a point, e.g. “The crew has seen it”"
          maxLength={200}
          value={text}
          onChange={(e) => setText(e.target.value)}
          onBlur={add}
          onKeyDown={(e) => e.key === "Enter" && (e.preventDefault(), add())}
        />
      )}
    </fieldset>
  );
}
