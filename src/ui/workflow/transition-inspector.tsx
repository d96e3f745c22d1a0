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
import {
  FOLLOW_UP_KINDS,
  followUpKindOf,
  followUpWords,
  newFollowUp,
  type FollowUp,
  type FollowUpKind,
} from "@/core/workflow/follow-ups/table";
import {
  newTrigger,
  TRIGGER_KINDS,
  triggerKindOf,
  triggerWords,
  type Trigger,
  type TriggerKind,
} from "@/core/workflow/trigger";
import type { State } from "@/core/workflow/state";
import { statesInOrder, type Transition } from "@/core/workflow/workflow";
import { Movers } from "./movers";
import { RuleList } from "./rule-list";
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
