"use client";
import { Dragging, saysWhatIsCarried } from "@/ui/kit/dragging";
import { Note } from "@/ui/kit/note";
import { wordOptions, Select } from "@/ui/kit/select";
import { Button } from "@/ui/kit/button";
import { closestCenter, KeyboardSensor, PointerSensor, useSensor, useSensors } from "@dnd-kit/core";
import { useState } from "react";
import {
  type FormFault,
  MOST_QUESTIONS,
  PART_QUESTIONS,
  REPORT_PARTS,
  type ReportPart,
  type FormQuestion,
  type QuestionKind,
} from "@/core/intake/form";
import { type Problem } from "@/ui/kit/request";
import type { FormsView } from "@/core/intake/forms-view";
import { FormTools } from "./form-tools";
import { FormHead } from "./form-head";
import { OWN_KINDS, QuestionEditor, QuestionRow } from "./question-editor";
import { FormLands } from "./form-lands";
import { FormPreview } from "./form-preview";
import { useFormDraft } from "./use-form-draft";
import type { FormChange, FormDraft, StoredForm } from "@/core/intake/forms-view";

/** How a question is called by whoever reads it out. */
const calledIn = (questions: readonly FormQuestion[]) => (id: string | number) =>
  questions.find((question) => question.id === id)?.label ?? "A question";

/**
 * A form being made: its questions on the left, on the right what whoever fills it in will see,
 * already alive.
 */
export function FormBuilder({
  form,
  view,
  kept,
  onKeep,
  onStore,
  onRemove,
}: {
  form: StoredForm;
  view: FormsView;
  kept: FormDraft | null;
  onKeep: (draft: FormDraft | null) => void;
  /** @throws Problem */ onStore: (change: FormChange, seenVersion: number) => Promise<void>;
  onRemove: () => void;
}) {
  const edited = useFormDraft(form, kept, onKeep, onStore);
  const { draft, slug, version, changed, faults, problem, set, setSlug, move, store } = edited;
  const { questions } = draft;
  const [open, setOpen] = useState<string | null>(null);
  const locked = !view.mayEdit;
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor),
  );
  const missing = REPORT_PARTS.filter((p) => !questions.some((q) => q.fills === p));
  const address = `/report/${view.project.key}/${form.slug}`;
  return (
    <div className="grid min-h-0 grid-cols-1 xl:grid-cols-[minmax(0,1fr)_minmax(360px,480px)]">
      <section
        aria-label="Form being made"
        className="flex min-h-0 flex-col gap-3 overflow-y-auto px-5 pb-4"
      >
        <FormTools
          form={form}
          address={address}
          locked={locked}
          changed={changed}
          faulty={faults.length > 0}
          onStore={() => void store({ definition: draft, ...(slug !== form.slug ? { slug } : {}) })}
          onTakeBack={edited.takeBack}
          onOpen={() => void store({ open: !form.open })}
          onRemove={onRemove}
        />
        {changed && version !== form.version && (
          <Note kind="look">
            Somebody else has stored this form meanwhile. Yours is still here; take your changes
            back to see theirs.
          </Note>
        )}
        <FormFaults problem={problem} faults={faults} questions={questions} />
        <FormHead
          draft={draft}
          slug={slug}
          projectKey={view.project.key}
          locked={locked}
          onChange={set}
          onSlug={setSlug}
        />
        <h2 className="text-[14px]">Questions</h2>
        <Dragging
          sensors={sensors}
          accessibility={saysWhatIsCarried(calledIn(questions))}
          collisionDetection={closestCenter}
          onDragEnd={({ active, over }) => {
            if (over && active.id !== over.id)
              move(
                String(active.id),
                questions.findIndex((q) => q.id === over.id),
              );
          }}
        >
          <ol className="flex flex-col" aria-label="Questions in their order">
            {questions.map((q, i) => (
              <QuestionRow
                key={q.id}
                question={q}
                locked={locked}
                isOpen={open === q.id}
                onOpen={() => setOpen(open === q.id ? null : q.id)}
                onMove={(by) => move(q.id, i + by)}
              >
                <QuestionEditor
                  question={q}
                  before={questions.slice(0, i)}
                  onChange={(change) => edited.setQuestion(q.id, change)}
                  onRemove={() => set({ questions: questions.filter((o) => o.id !== q.id) })}
                />
              </QuestionRow>
            ))}
          </ol>
        </Dragging>
        {!locked && questions.length < MOST_QUESTIONS && (
          <AddQuestion missing={missing} onAdd={(question) => setOpen(edited.add(question))} />
        )}
        <h2 className="text-[14px]">What becomes of it</h2>
        <FormLands
          form={form}
          draft={draft}
          view={view}
          locked={locked}
          changed={changed}
          onChange={set}
          onEmbeddable={(on) => void store({ embeddable: on })}
        />
      </section>
      <FormPreview definition={draft} projectName={view.project.name} />
    </div>
  );
}

/** What keeps the form from being stored. */
function FormFaults({
  problem,
  faults,
  questions,
}: {
  problem: Problem | null;
  faults: readonly FormFault[];
  questions: readonly FormQuestion[];
}) {
  if (!problem && faults.length === 0) return null;
  return (
    <ul role="alert" className="border-l-[3px] border-alarm bg-alarm-soft px-3 py-1.5 text-[13px]">
      {problem && (
        <li>
          <b>{problem.sentence}</b> {problem.errors[0]?.message ?? problem.help}
        </li>
      )}
      {faults.map((f) => (
        <li key={`${f.at} ${f.message}`}>
          {f.at !== null && <b>{questions[f.at].label || "A question without words"}: </b>}
          {f.message}
        </li>
      ))}
    </ul>
  );
}

/** Parts of a report that are not asked for yet, and questions of one's own. */
function AddQuestion({
  missing,
  onAdd,
}: {
  missing: readonly ReportPart[];
  onAdd: (question: FormQuestion) => void;
}) {
  return (
    <div className="flex flex-wrap items-center gap-2 text-[13px]">
      <span className="text-ink-soft">Add a question:</span>
      {missing.map((p) => (
        <Button key={p} small onClick={() => onAdd(PART_QUESTIONS[p])}>
          {PART_QUESTIONS[p].label}
        </Button>
      ))}
      <Select
        label="Add a question of your own"
        className="!w-auto"
        value=""
        options={[{ value: "", label: "your own…" }, ...wordOptions(OWN_KINDS)]}
        onChange={(next) =>
          next &&
          onAdd({
            id: "own",
            fills: null,
            kind: next as QuestionKind,
            label: "",
            help: "",
            required: false,
            options: next === "one of" || next === "several of" ? ["first", "second"] : [],
            shownIf: null,
          })
        }
      />
    </div>
  );
}
