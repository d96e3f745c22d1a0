"use client";
import { Note } from "@/ui/kit/note";
import { Check } from "@/ui/kit/check";
import { wordOptions, Select, namedOptions } from "@/ui/kit/select";
import { Field, TextInput, TextArea } from "@/ui/kit/field";
import { Button } from "@/ui/kit/button";
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { useWarnBeforeLeaving } from "@/ui/kit/use-warn-before-leaving";
import { GripVertical } from "lucide-react";
import { useState } from "react";
import {
  answersOf,
  formFaults,
  MOST_QUESTIONS,
  PART_QUESTIONS,
  REPORT_PARTS,
  type FormDefinition,
  type FormQuestion,
  type QuestionKind,
  type RawAnswers,
} from "@/core/intake/form";
import { problemOf, type Problem } from "@/ui/kit/request";
import { FormFields } from "./form-fields";
import { Sheet } from "./report-form";
import type { FormsView } from "@/core/intake/forms-view";

type Form = FormsView["forms"][number];
/** What is typed and not stored yet, and the version of the form that it began with. */
export type FormDraft = Pick<Form, "definition" | "slug" | "version">;
type Change = Partial<Pick<Form, "definition" | "slug" | "open" | "embeddable">>;

const OWN_KINDS: QuestionKind[] = [
  "short text",
  "long text",
  "one of",
  "several of",
  "yes or no",
  "number",
  "date",
];

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
  form: Form;
  view: FormsView;
  kept: FormDraft | null;
  onKeep: (draft: FormDraft | null) => void;
  /** @throws Problem */ onStore: (change: Change, seenVersion: number) => Promise<void>;
  onRemove: () => void;
}) {
  const { definition: draft, slug, version } = kept ?? form;
  const differs = (d: Pick<FormDraft, "definition" | "slug">) =>
    JSON.stringify(d.definition) !== JSON.stringify(form.definition) || d.slug !== form.slug;
  const keep = (change: Partial<FormDraft>) => {
    const next = { definition: draft, slug, version, ...change };
    // Typed back to what is stored, it is nothing to keep.
    onKeep(differs(next) ? next : null);
  };
  const [open, setOpen] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const changed = differs({ definition: draft, slug });
  const faults = formFaults(draft);
  const locked = !view.mayEdit;
  useWarnBeforeLeaving(changed);
  const set = (change: Partial<FormDefinition>) => keep({ definition: { ...draft, ...change } });
  const { questions } = draft;
  const setQuestion = (id: string, change: Partial<FormQuestion>) =>
    set({ questions: questions.map((q) => (q.id === id ? { ...q, ...change } : q)) });
  const move = (id: string, to: number) => {
    const rest = questions.filter((q) => q.id !== id);
    rest.splice(
      Math.max(0, Math.min(to, rest.length)),
      0,
      questions.find((q) => q.id === id)!,
    );
    set({ questions: rest });
  };
  const add = (question: FormQuestion) => {
    let id = question.id;
    for (let n = 2; questions.some((q) => q.id === id); n++) id = `${question.id}-${n}`;
    const at = Math.max(
      0,
      questions.findIndex((q) => q.fills === "mail"),
    );
    set({
      questions: questions.toSpliced(question.fills ? questions.length : at, 0, {
        ...question,
        id,
      }),
    });
    setOpen(id);
  };
  const store = async (change: Change) => {
    try {
      await onStore(change, version);
      setProblem(null);
    } catch (error) {
      setProblem(problemOf(error));
    }
  };
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
        <div className="sticky top-0 z-10 -mx-5 flex shrink-0 flex-wrap items-center gap-2 border-b border-line bg-paper px-5 py-2">
          <Button
            look="accent"
            disabled={locked || !changed || faults.length > 0}
            onClick={() =>
              void store({ definition: draft, ...(slug !== form.slug ? { slug } : {}) })
            }
          >
            Store the form
          </Button>
          {changed && (
            <Button look="quiet" onClick={() => (onKeep(null), setProblem(null))}>
              Take my changes back
            </Button>
          )}
          <Button disabled={locked || changed} onClick={() => void store({ open: !form.open })}>
            {form.open ? "Close the form" : "Open the form"}
          </Button>
          <a className="link text-[13px]" href={address} target="_blank" rel="noreferrer">
            {form.open ? "See it as others do" : "See what others are told"}
          </a>
          <span className="flex-1" />
          <Button look="danger" small disabled={locked} onClick={onRemove}>
            Take it out
          </Button>
        </div>
        {changed && version !== form.version && (
          <Note kind="look">
            Somebody else has stored this form meanwhile. Yours is still here; take your changes
            back to see theirs.
          </Note>
        )}
        {(problem || faults.length > 0) && (
          <ul
            role="alert"
            className="border-l-[3px] border-alarm bg-alarm-soft px-3 py-1.5 text-[13px]"
          >
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
        )}
        <fieldset disabled={locked} className="grid grid-cols-2 gap-x-3 gap-y-2">
          <Field label="Title">
            <TextInput
              maxLength={120}
              value={draft.title}
              onChange={(e) => set({ title: e.target.value })}
            />
          </Field>
          <Field label="Address">
            <span className="flex items-center gap-1 font-normal text-ink-soft">
              <span className="whitespace-nowrap font-mono text-[12px]">
                /report/{view.project.key}/
              </span>
              <TextInput
                aria-label="Address"
                maxLength={40}
                value={slug}
                onChange={(e) => keep({ slug: e.target.value.toLowerCase() })}
              />
            </span>
          </Field>
          <Field label="Below the title" className="col-span-2">
            <TextArea
              className="!min-h-12"
              rows={2}
              maxLength={2_000}
              value={draft.intro}
              onChange={(e) => set({ intro: e.target.value })}
            />
          </Field>
        </fieldset>
        <h2 className="text-[14px]">Questions</h2>
        <DndContext
          sensors={sensors}
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
                  onChange={(change) => setQuestion(q.id, change)}
                  onRemove={() => set({ questions: questions.filter((o) => o.id !== q.id) })}
                />
              </QuestionRow>
            ))}
          </ol>
        </DndContext>
        {!locked && questions.length < MOST_QUESTIONS && (
          <div className="flex flex-wrap items-center gap-2 text-[13px]">
            <span className="text-ink-soft">Add a question:</span>
            {missing.map((p) => (
              <Button key={p} small onClick={() => add(PART_QUESTIONS[p])}>
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
                add({
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
        )}
        <h2 className="text-[14px]">What becomes of it</h2>
        <fieldset disabled={locked} className="grid grid-cols-2 gap-x-3 gap-y-2">
          <Field label="Lands with the team">
            <Select
              value={draft.lands.teamId ?? ""}
              options={[{ value: "", label: "whoever triages" }, ...namedOptions(view.teams)]}
              onChange={(next) => set({ lands: { ...draft.lands, teamId: next || null } })}
            />
          </Field>
          <Field label="Accepted as a">
            <Select
              value={draft.lands.typeId ?? ""}
              options={[{ value: "", label: "choose at triage" }, ...namedOptions(view.types)]}
              onChange={(next) => set({ lands: { ...draft.lands, typeId: next || null } })}
            />
          </Field>
          <Field label="Thank-you text" className="col-span-2">
            <TextArea
              className="!min-h-12"
              rows={2}
              maxLength={2_000}
              value={draft.thanks}
              onChange={(e) => set({ thanks: e.target.value })}
              placeholder="Shown after sending, and in the mail that goes out at once"
            />
          </Field>
          <Check
            checked={draft.offersKnown}
            onChange={(on) => set({ offersKnown: on })}
            className="col-span-2 text-[13px]"
          >
            Offer known problems that look alike while the title is typed
          </Check>
          <Check
            checked={form.embeddable}
            disabled={changed}
            onChange={(on) => void store({ embeddable: on })}
            className="col-span-2 text-[13px]"
          >
            Other sites may show it in a frame
          </Check>
          {form.embeddable && (
            <Field label="For the other site" className="col-span-2">
              <TextInput
                className="font-mono !text-[12px]"
                readOnly
                onFocus={(e) => e.target.select()}
                value={`<iframe src="${typeof window === "undefined" ? "" : window.location.origin}/embed/${view.project.key}/${form.slug}" width="100%" height="900" title="${form.definition.title.replaceAll('"', "")}"></iframe>`}
              />
            </Field>
          )}
        </fieldset>
      </section>
      <Preview definition={draft} projectName={view.project.name} />
    </div>
  );
}

/** The form as it will be, to be tried; nothing is sent. */
function Preview({ definition, projectName }: { definition: FormDefinition; projectName: string }) {
  const [values, setValues] = useState<RawAnswers>({});
  return (
    <section
      aria-label="Preview"
      className="overflow-y-auto border-l border-line bg-well max-xl:hidden"
    >
      <p className="px-4 pt-2 text-[12.5px] text-ink-soft">
        As others see it. Try it: nothing is sent.
      </p>
      <div className="[&_main]:!py-3">
        <Sheet projectName={projectName}>
          <h3 className="text-[20px] leading-tight">{definition.title}</h3>
          <p className="mb-4 mt-1 whitespace-pre-wrap text-ink-soft">{definition.intro}</p>
          <div className="flex flex-col gap-4">
            <FormFields
              questions={definition.questions.map((q) => ({
                ...q,
                id: `p-${q.id}`,
                shownIf: q.shownIf && { ...q.shownIf, questionId: `p-${q.shownIf.questionId}` },
              }))}
              values={values}
              errors={[]}
              onChange={(id, value) => setValues((v) => ({ ...v, [id]: value }))}
            />
            <Button look="accent" className="self-start" onClick={() => setValues({})}>
              Send report
            </Button>
          </div>
        </Sheet>
      </div>
    </section>
  );
}

function QuestionRow({
  question: q,
  locked,
  isOpen,
  onOpen,
  onMove,
  children,
}: {
  question: FormQuestion;
  locked: boolean;
  isOpen: boolean;
  onOpen: () => void;
  onMove: (by: number) => void;
  children: React.ReactNode;
}) {
  const { setNodeRef: drop, isOver } = useDroppable({ id: q.id });
  const {
    setNodeRef: drag,
    attributes,
    listeners,
    transform,
    isDragging,
  } = useDraggable({ id: q.id, disabled: locked });
  return (
    <li
      ref={drop}
      data-question={q.id}
      className={`border-t border-line ${isOver ? "border-t-2 border-t-accent" : ""} ${isDragging ? "relative z-10 bg-sheet shadow-md" : ""}`}
      style={transform ? { transform: `translateY(${transform.y}px)` } : undefined}
    >
      <div className="flex items-center gap-2 py-1">
        <button
          ref={drag}
          type="button"
          {...attributes}
          {...listeners}
          disabled={locked}
          aria-label={`Move “${q.label}”: drag it, or use Alt with the arrows`}
          className="cursor-grab p-1 text-ink-soft"
          onKeyDown={(e) => {
            if (e.altKey && (e.key === "ArrowUp" || e.key === "ArrowDown")) {
              e.preventDefault();
              onMove(e.key === "ArrowUp" ? -1 : 1);
            } else listeners?.onKeyDown?.(e);
          }}
        >
          <GripVertical size={16} aria-hidden="true" />
        </button>
        <button
          type="button"
          aria-expanded={isOpen}
          onClick={onOpen}
          className="flex min-w-0 flex-1 items-baseline gap-3 text-left hover:underline"
        >
          <span className="truncate font-medium">
            {q.label || <i className="text-signal-ink">no words yet</i>}
          </span>
          <span className="whitespace-nowrap text-[12.5px] text-ink-soft">
            {q.fills ? "part of the report" : q.kind}
            {q.required ? ", needed" : ""}
            {q.shownIf ? `, only if “${q.shownIf.is}”` : ""}
          </span>
        </button>
      </div>
      {isOpen && <fieldset disabled={locked}>{children}</fieldset>}
    </li>
  );
}

function QuestionEditor({
  question: q,
  before,
  onChange,
  onRemove,
}: {
  question: FormQuestion;
  before: readonly FormQuestion[];
  onChange: (change: Partial<FormQuestion>) => void;
  onRemove: () => void;
}) {
  const fixed = q.fills === "title" || q.fills === "mail";
  const conditions = before.flatMap((b) =>
    answersOf(b).map((answer) => ({
      value: JSON.stringify([b.id, answer]),
      label: `“${b.label}” is “${answer}”`,
    })),
  );
  return (
    <div className="mb-2 grid grid-cols-2 gap-x-3 gap-y-2 bg-sheet p-3">
      <Field label="The question" className="col-span-2">
        <TextInput
          autoFocus={q.label === ""}
          maxLength={200}
          value={q.label}
          onChange={(e) => onChange({ label: e.target.value })}
        />
      </Field>
      <Field label="Help" className="col-span-2">
        <TextInput
          maxLength={400}
          value={q.help}
          onChange={(e) => onChange({ help: e.target.value })}
          placeholder="What one might not know"
        />
      </Field>
      {(q.kind === "one of" || q.kind === "several of") && (
        <Field label="Options, one a line" className="col-span-2">
          <TextArea
            rows={4}
            value={q.options.join("\n")}
            onChange={(e) => onChange({ options: e.target.value.split("\n") })}
            onBlur={() => onChange({ options: q.options.map((o) => o.trim()).filter(Boolean) })}
          />
        </Field>
      )}
      {!q.fills && (
        <Field label="Answered as">
          <Select
            value={q.kind}
            options={wordOptions(OWN_KINDS)}
            onChange={(next) =>
              onChange({
                kind: next as QuestionKind,
                options:
                  next === "one of" || next === "several of"
                    ? q.options.length > 1
                      ? q.options
                      : ["first", "second"]
                    : [],
              })
            }
          />
        </Field>
      )}
      {!fixed && conditions.length > 0 && (
        <Field label="Asked">
          <Select
            value={q.shownIf ? JSON.stringify([q.shownIf.questionId, q.shownIf.is]) : ""}
            options={[
              { value: "", label: "always" },
              ...conditions.map((c) => ({ value: c.value, label: `only if ${c.label}` })),
            ]}
            onChange={(next) => {
              const [questionId, is] = next ? (JSON.parse(next) as [string, string]) : [];
              onChange({ shownIf: questionId && is ? { questionId, is } : null });
            }}
          />
        </Field>
      )}
      {fixed ? (
        <p className="col-span-2 text-[12.5px] text-ink-soft">
          Always asked for: without it a report cannot be read or answered.
        </p>
      ) : (
        <div className="col-span-2 flex items-center gap-4">
          <Check
            checked={q.required}
            onChange={(on) => onChange({ required: on })}
            className="text-[13px]"
          >
            An answer is needed
          </Check>
          <Button look="danger" small className="ml-auto" onClick={onRemove}>
            Take the question out
          </Button>
        </div>
      )}
    </div>
  );
}
