"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { v7 as newId } from "uuid";
import { testingContract } from "@/core/ship/testing/contract";
import { stepsOfCriteria, type TestStep } from "@/core/ship/testing/test-case";
import type { ItemTests } from "@/core/ship/testing/testing-view";
import { TextButton } from "@/ui/kit/button";
import { Field, TextArea, TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { ListEditor } from "@/ui/kit/list-editor";
import { problemWords, queryOf } from "@/ui/kit/request";
import { namedOptions, Select, wordOptions } from "@/ui/kit/select";
import { Sheet } from "@/ui/kit/sheet";
import { useCaseEdits, type CaseWritten } from "./use-cases";

const newStep = (): TestStep => ({ id: newId(), action: "", expected: "" });

/** A case that is not written yet. */
export const emptyCase = (more: Partial<CaseWritten> = {}): CaseWritten => ({
  ...{ id: newId(), seenVersion: null, title: "", before: "", part: null, suiteId: null },
  ...{ itemKey: null, steps: [newStep()], ...more },
});

/** Writes a case for an item, from what it is accepted by where that is said. */
export function NewCase({
  projectKey,
  tests,
  onWritten,
}: {
  projectKey: string;
  tests: ItemTests;
  onWritten: () => unknown;
}) {
  const [draft, setDraft] = useState<CaseWritten | null>(null);
  const { item, criteria } = tests;
  const steps = () => stepsOfCriteria(criteria, newId);
  const begin = (more: Partial<CaseWritten>) =>
    setDraft(emptyCase({ title: item.title, itemKey: item.key, ...more }));
  return (
    <>
      {criteria.length > 0 && (
        <TextButton className="text-[13px]" onClick={() => begin({ steps: steps() })}>
          Write one from what it is accepted by
        </TextButton>
      )}
      <TextButton className="text-[13px]" onClick={() => begin({})}>
        {criteria.length > 0 ? "Write an empty one" : "Write a case"}
      </TextButton>
      <CaseSheet
        projectKey={projectKey}
        draft={draft}
        onWritten={onWritten}
        onLeave={() => setDraft(null)}
      />
    </>
  );
}

/** The sheet on which a case is written. */
export function CaseSheet({
  projectKey,
  draft,
  title = "A test case",
  onWritten,
  onLeave,
}: {
  projectKey: string;
  draft: CaseWritten | null;
  title?: string;
  onWritten: () => unknown;
  onLeave: () => void;
}) {
  return (
    <Sheet open={draft !== null} onClose={onLeave} title={title} className="!w-[760px]">
      {draft && (
        <CaseForm
          key={draft.id}
          projectKey={projectKey}
          draft={draft}
          onWritten={onWritten}
          onLeave={onLeave}
        />
      )}
    </Sheet>
  );
}

function CaseForm({
  projectKey,
  draft,
  onWritten,
  onLeave,
}: {
  projectKey: string;
  draft: CaseWritten;
  onWritten: () => unknown;
  onLeave: () => void;
}) {
  const [text, setText] = useState(draft);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const { save } = useCaseEdits(projectKey, onWritten);
  const { data } = useQuery(queryOf(testingContract.cases, { params: { key: projectKey } }));
  const change = (more: Partial<CaseWritten>) => setText({ ...text, ...more });
  const store = async () => {
    setBusy(true);
    // A line that was added and left empty says nothing.
    const said = text.steps.filter(({ action, expected }) => action.trim() || expected.trim());
    const answer = await save({ ...text, steps: said });
    setBusy(false);
    if (typeof answer === "number") return onLeave();
    setProblem(problemWords(answer));
  };
  return (
    <form
      aria-label="Write a test case"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void store();
      }}
    >
      <Field label="Title">
        <TextInput
          value={text.title}
          maxLength={200}
          autoFocus
          onChange={(event) => change({ title: event.target.value })}
        />
      </Field>
      <Field label="What has to be so before">
        <TextArea
          rows={2}
          value={text.before}
          onChange={(event) => change({ before: event.target.value })}
        />
      </Field>
      <Steps steps={text.steps} onChange={(steps) => change({ steps })} />
      <div className="grid grid-cols-2 gap-3">
        <Field label="Part of the product">
          <Select
            label="Part of the product"
            value={text.part ?? ""}
            options={[{ value: "", label: "none" }, ...wordOptions(data?.parts ?? [])]}
            onChange={(part) => change({ part: part || null })}
          />
        </Field>
        <Field label="Suite">
          <Select
            label="Suite"
            value={text.suiteId ?? ""}
            options={[{ value: "", label: "none" }, ...namedOptions(data?.suites ?? [])]}
            onChange={(suiteId) => change({ suiteId: suiteId || null })}
          />
        </Field>
      </div>
      <FormFooter send="Keep the case" busy={busy} problem={problem} onLeave={onLeave} />
    </form>
  );
}

/** Steps with what is expected of each: Enter in the last one begins another. */
function Steps({
  steps,
  onChange,
}: {
  steps: readonly TestStep[];
  onChange: (steps: TestStep[]) => void;
}) {
  const [fresh, setFresh] = useState<string | null>(null);
  const set = (id: string, more: Partial<TestStep>) =>
    onChange(steps.map((step) => (step.id === id ? { ...step, ...more } : step)));
  const add = () => {
    const step = newStep();
    setFresh(step.id);
    onChange([...steps, step]);
  };
  return (
    <div>
      <p className="mb-1 text-[12.5px] font-semibold">Steps</p>
      <ListEditor
        label="Steps"
        items={steps}
        keyOf={({ id }) => id}
        nameOf={(step) => `step ${steps.indexOf(step) + 1}`}
        onRemove={(at) => onChange(steps.filter((_, i) => i !== at))}
        onMove={(from, to) => {
          const others = steps.filter((_, i) => i !== from);
          onChange([...others.slice(0, to), steps[from], ...others.slice(to)]);
        }}
        empty="A case needs a step."
        row={(step, i) => (
          <>
            <span className="w-5 shrink-0 text-right text-ink-soft tabular-nums">{i + 1}</span>
            <TextInput
              aria-label={`Step ${i + 1}: what is done`}
              placeholder="What is done"
              className="flex-1"
              value={step.action}
              autoFocus={step.id === fresh}
              onChange={(event) => set(step.id, { action: event.target.value })}
            />
            <TextInput
              aria-label={`Step ${i + 1}: what is to be seen`}
              placeholder="What is to be seen"
              className="flex-1"
              value={step.expected}
              onChange={(event) => set(step.id, { expected: event.target.value })}
              onKeyDown={(event) => {
                if (event.key !== "Enter" || i < steps.length - 1) return;
                event.preventDefault();
                add();
              }}
            />
          </>
        )}
      >
        <TextButton className="mt-1 text-[13px]" onClick={add}>
          Add a step
        </TextButton>
      </ListEditor>
    </div>
  );
}
