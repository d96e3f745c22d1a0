"use client";
import { Field } from "@/ui/kit/field";
import { CommitText } from "@/ui/kit/commit-input";
import { Select, namedOptions } from "@/ui/kit/select";
import { AddMenu } from "@/ui/kit/add-menu";
import { Button } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { Trash2, X } from "lucide-react";
import type { CheckSurroundings } from "@/core/workflow/finding";
import { changeTransition, removeTransition } from "@/core/workflow/edit";
import type { Vocabulary } from "@/core/condition/vocabulary";
import {
  FOLLOW_UP_KINDS,
  followUpKindOf,
  followUpWords,
  newFollowUp,
  type FollowUp,
  type FollowUpKind,
} from "@/core/workflow/follow-ups/table";
import type { ParameterEditor } from "@/core/workflow/parameter";
import type { Mover } from "@/core/workflow/requirement";
import {
  newTrigger,
  TRIGGER_KINDS,
  triggerKindOf,
  triggerWords,
  type Trigger,
  type TriggerKind,
} from "@/core/workflow/trigger";
import { moversWords } from "@/core/workflow/words";
import type { State } from "@/core/workflow/state";
import { statesInOrder, type Transition } from "@/core/workflow/workflow";
import { ParameterFields } from "./parameter-fields";
import type { Designer } from "./use-designer";
import {
  type Requirement,
  requirementWords,
  REQUIREMENT_KINDS,
  requirementKindOf,
  newRequirement,
  type RequirementKind,
} from "@/core/workflow/requirements/table";

/** Where a move leads, who may make it, what it demands and what follows. */
export function TransitionInspector({
  designer,
  transition: t,
  around,
  mayEdit,
}: {
  designer: Designer;
  transition: Transition;
  around: CheckSurroundings;
  mayEdit: boolean;
}) {
  const { draft, edit, select } = designer;
  const { vocabulary } = around;
  const set = (change: Partial<Transition>) => edit((w) => changeTransition(w, t.id, change));
  const states = statesInOrder(draft);
  const name = (id: string) => draft.states.find((s) => s.id === id)?.name ?? "?";
  return (
    <div className="flex flex-col gap-5" data-inspects={t.verb}>
      <section className="flex flex-col gap-2">
        <h2 className="text-[15px]">
          {t.verb} → {name(t.to)}
        </h2>
        <Field label="Words on its button">
          <CommitText
            value={t.verb}
            disabled={!mayEdit}
            required
            onCommit={(verb) => set({ verb })}
          />
        </Field>
        <Field label="Leads to">
          <Select
            value={t.to}
            disabled={!mayEdit}
            options={namedOptions(states)}
            onChange={(to) => set({ to })}
          />
        </Field>
        <LeadsFrom states={states} transition={t} set={set} mayEdit={mayEdit} />
        <Movers around={around} transition={t} set={set} mayEdit={mayEdit} />
        {mayEdit && (
          <Button
            look="danger"
            small
            className="self-start"
            onClick={() => {
              edit((w) => removeTransition(w, t.id));
              select(null);
            }}
          >
            <Trash2 size={13} aria-hidden="true" /> Take the move out
          </Button>
        )}
      </section>
      <section className="flex min-w-0 flex-col gap-4">
        <RuleList<Requirement>
          title="It is allowed when"
          none="Nothing is demanded."
          add="Demand that…"
          rules={t.requirements}
          mayEdit={mayEdit}
          words={(r) =>
            r.kind === "condition" && mayEdit
              ? "only when this holds:"
              : requirementWords(r, vocabulary)
          }
          options={REQUIREMENT_KINDS.map((k) => ({ value: k, label: requirementKindOf(k).title }))}
          make={(kind) => newRequirement(kind as RequirementKind)}
          editors={({ kind }) => requirementKindOf(kind).editors}
          vocabulary={vocabulary}
          onChange={(requirements) => set({ requirements })}
        />
        <RuleList<FollowUp>
          title="Then"
          none="Nothing follows by itself."
          add="Afterwards…"
          rules={t.followUps}
          mayEdit={mayEdit}
          words={(f) => followUpWords(f, vocabulary)}
          options={FOLLOW_UP_KINDS.map((k) => ({ value: k, label: followUpKindOf(k).title }))}
          make={(kind) => newFollowUp(kind as FollowUpKind, vocabulary)}
          editors={({ kind }) => followUpKindOf(kind).editors}
          vocabulary={vocabulary}
          onChange={(followUps) => set({ followUps })}
        />
        <RuleList<Trigger>
          title="It happens by itself when"
          none="Only people make it."
          add="As soon as…"
          rules={t.triggers}
          mayEdit={mayEdit}
          words={triggerWords}
          options={TRIGGER_KINDS.map((k) => ({ value: k, label: triggerKindOf(k).title }))}
          make={(kind) => newTrigger(kind as TriggerKind)}
          editors={({ kind }) => triggerKindOf(kind).editors}
          vocabulary={vocabulary}
          onChange={(triggers) => set({ triggers })}
        />
      </section>
    </div>
  );
}

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

/** A list of rules, each as its sentence with its fields beneath it. */
function RuleList<T extends object>({
  title,
  none,
  add,
  rules,
  mayEdit,
  words,
  options,
  make,
  editors,
  vocabulary,
  onChange,
}: {
  title: string;
  none: string;
  add: string;
  rules: T[];
  mayEdit: boolean;
  words: (rule: T) => string;
  options: { value: string; label: string }[];
  make: (kind: string) => T;
  /** How what a rule leaves open is edited. */
  editors: (rule: T) => Partial<Record<string, ParameterEditor>>;
  vocabulary: Vocabulary;
  onChange: (rules: T[]) => void;
}) {
  return (
    <div role="group" aria-label={title}>
      <h2 className="text-[15px]">{title}</h2>
      {rules.length === 0 && <p className="text-[13px] text-ink-soft">{none}</p>}
      <ul>
        {rules.map((rule, i) => (
          <li key={i} className="border-t border-line py-1.5">
            <div className="flex items-center gap-2">
              <p className="flex-1">{words(rule)}</p>
              {mayEdit && (
                <Button
                  look="quiet"
                  small
                  className="!px-1"
                  aria-label={`Take out: ${words(rule)}`}
                  onClick={() => onChange(rules.filter((_, j) => j !== i))}
                >
                  <X size={13} aria-hidden="true" />
                </Button>
              )}
            </div>
            {mayEdit && (
              <ParameterFields
                rule={rule}
                editors={editors(rule)}
                vocabulary={vocabulary}
                onChange={(next) => onChange(rules.map((r, j) => (j === i ? next : r)))}
              />
            )}
          </li>
        ))}
      </ul>
      {mayEdit && (
        <AddMenu label={add} options={options} onAdd={(kind) => onChange([...rules, make(kind)])} />
      )}
    </div>
  );
}

/** The states that a move leads out of; every one, where it leads from anywhere. */
function LeadsFrom({
  states,
  transition,
  set,
  mayEdit,
}: {
  states: readonly State[];
  transition: Transition;
  set: (change: Partial<Transition>) => void;
  mayEdit: boolean;
}) {
  const { from: sources, to } = transition;
  const name = (id: string) => states.find((s) => s.id === id)?.name ?? "?";
  return (
    <fieldset>
      <legend className="text-[12px] font-semibold">Leads from</legend>
      <Check
        disabled={!mayEdit}
        checked={sources === null}
        onChange={(on) =>
          set({
            from: on
              ? null
              : states
                  .filter((s) => s.id !== to)
                  .slice(0, 1)
                  .map((s) => s.id),
          })
        }
      >
        anywhere
      </Check>
      {sources !== null && (
        <div className="flex flex-wrap items-center gap-1">
          {sources.map((id) => (
            <span
              key={id}
              className="inline-flex items-center gap-1 rounded-[3px] border border-line px-1.5"
            >
              {name(id)}
              {mayEdit && sources.length > 1 && (
                <button
                  type="button"
                  aria-label={`Not from ${name(id)}`}
                  onClick={() => set({ from: sources.filter((x) => x !== id) })}
                >
                  <X size={12} aria-hidden="true" />
                </button>
              )}
            </span>
          ))}
          {mayEdit && (
            <AddMenu
              label="and from…"
              options={namedOptions(states.filter((s) => s.id !== to && !sources.includes(s.id)))}
              onAdd={(id) => set({ from: [...sources, id] })}
            />
          )}
        </div>
      )}
    </fieldset>
  );
}

/** Who may make a move; anybody of those who are named. */
function Movers({
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
