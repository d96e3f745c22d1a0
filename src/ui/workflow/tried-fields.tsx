"use client";

import type { MoveAnswers } from "@/core/item/command";
import { CLASSES_OF_SERVICE, type ItemSnapshot, PRIORITIES, SEVERITIES } from "@/core/item/fields";
import { fieldsOfType } from "@/core/item/own-field";
import type { DesignView } from "@/core/workflow/design-view";
import { OUTCOMES, type Outcome } from "@/core/workflow/state";
import type { Workflow } from "@/core/workflow/workflow";
import { OwnFieldInput } from "@/ui/item/own-field-input";
import { CommitNumber, CommitText } from "@/ui/kit/commit-input";
import { Field } from "@/ui/kit/field";
import { namedOptions, Select, wordOptions } from "@/ui/kit/select";

/** What is said of the item that is tried, and of whoever moves it. */
export function TriedFields({
  draft,
  view,
  item,
  answers,
  as,
  onAs,
  set,
  answer,
}: {
  draft: Workflow;
  view: DesignView;
  item: ItemSnapshot;
  answers: MoveAnswers;
  as: string;
  onAs: (id: string) => void;
  set: (change: Partial<ItemSnapshot>) => void;
  answer: (change: Partial<MoveAnswers>) => void;
}) {
  const { vocabulary } = view.around;
  const people = [{ value: "", label: "nobody" }, ...namedOptions(view.people)];
  return (
    <div className="grid grid-cols-2 gap-2">
      <Field label="Moved by" className="col-span-full">
        <Select
          value={as}
          options={view.people.map((p) => ({ value: p.id, label: `${p.name}, ${p.role}` }))}
          onChange={onAs}
        />
      </Field>
      <Field label="Type">
        <Select
          value={item.typeId}
          options={namedOptions(vocabulary.types.filter((t) => t.workflowId === draft.id))}
          onChange={(typeId) => set({ typeId })}
        />
      </Field>
      <Field label="Class of service">
        <Select
          value={item.classOfService}
          options={wordOptions(CLASSES_OF_SERVICE)}
          onChange={(v) => set({ classOfService: v as ItemSnapshot["classOfService"] })}
        />
      </Field>
      <Field label="Severity">
        <Select
          value={item.severity ?? ""}
          options={[{ value: "", label: "not set" }, ...wordOptions(SEVERITIES)]}
          onChange={(v) => set({ severity: (v || null) as ItemSnapshot["severity"] })}
        />
      </Field>
      <Field label="Priority">
        <Select
          value={item.priority}
          options={wordOptions(PRIORITIES)}
          onChange={(v) => set({ priority: v as ItemSnapshot["priority"] })}
        />
      </Field>
      <Field label="Assignee">
        <Select
          value={item.assigneeId ?? ""}
          options={people}
          onChange={(v) => set({ assigneeId: v || null })}
        />
      </Field>
      <Field label="Reviewer">
        <Select
          value={item.reviewerId ?? ""}
          options={people}
          onChange={(v) => set({ reviewerId: v || null })}
        />
      </Field>
      <Field label="Estimate">
        <CommitNumber
          value={item.estimate}
          disabled={false}
          step="any"
          onCommit={(estimate) => set({ estimate })}
        />
      </Field>
      <Field label="How to test">
        <CommitText
          value={item.howToTest ?? ""}
          max={500}
          disabled={false}
          onCommit={(v) => set({ howToTest: v || null })}
        />
      </Field>
      <Field label="Reason or comment">
        <CommitText
          value={answers.reason ?? ""}
          max={500}
          disabled={false}
          onCommit={(v) => answer({ reason: v, comment: v })}
        />
      </Field>
      <Field label="Outcome">
        <Select
          value={answers.outcome ?? ""}
          options={[{ value: "", label: "none named" }, ...wordOptions(OUTCOMES)]}
          onChange={(v) => answer({ outcome: (v || undefined) as Outcome | undefined })}
        />
      </Field>
      <TriedOwnFields view={view} item={item} set={set} />
    </div>
  );
}

/** What is said in the project's own fields. */
function TriedOwnFields({
  view,
  item,
  set,
}: {
  view: DesignView;
  item: ItemSnapshot;
  set: (change: Partial<ItemSnapshot>) => void;
}) {
  const written = fieldsOfType(view.around.vocabulary.own, item.typeId).filter(
    (f) => f.kind !== "computed",
  );
  return written.map((f) => (
    <Field key={f.id} label={f.name} className="col-span-full">
      <OwnFieldInput
        field={f}
        value={item.own[f.id] ?? null}
        people={view.people}
        onChange={(value) => {
          const { [f.id]: _, ...others } = item.own;
          set({ own: value === null ? others : { ...others, [f.id]: value } });
        }}
      />
    </Field>
  ));
}
