"use client";

import { answersOf, type FormQuestion, type QuestionKind } from "@/core/intake/form";
import { useDraggable, useDroppable } from "@dnd-kit/core";
import { GripVertical } from "lucide-react";
import { Field, TextArea, TextInput } from "@/ui/kit/field";
import { Button } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { Select, wordOptions } from "@/ui/kit/select";

/** What questions of one's own are answered by. */
export const OWN_KINDS: QuestionKind[] = [
  "short text",
  "long text",
  "one of",
  "several of",
  "yes or no",
  "number",
  "date",
];

/** A question in the list, with its editor below it while it is open. */
export function QuestionRow({
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

/** Everything that can be said of a question. */
export function QuestionEditor({
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
