"use client";
import { ChosenFiles } from "@/ui/kit/chosen-files";
import { MOST_FILES } from "@/core/intake/file-limits";
import { Check, Choice } from "@/ui/kit/check";
import { DateInput } from "@/ui/kit/date-input";
import { PlainSelect } from "@/ui/kit/plain-select";
import { TextInput, TextArea } from "@/ui/kit/field";
import { answersOf, shownQuestions, type FormQuestion, type RawAnswers } from "@/core/intake/form";

const ACCEPTED =
  "image/png,image/jpeg,image/gif,image/webp,application/pdf,text/plain,.txt,.log,.csv";

/**
 * The questions of a form, as they are asked. Those that depend on an answer stay out of sight
 * until it is given; a browser without JavaScript shows them all, and the server leaves out what
 * was not asked.
 */
export function FormFields({
  questions,
  values,
  errors,
  onChange,
  files = [],
  onFiles,
  fileError,
  after,
}: {
  questions: readonly FormQuestion[];
  values: RawAnswers;
  errors: readonly { field: string; message: string }[];
  onChange: (id: string, value: string[]) => void;
  files?: readonly File[];
  onFiles?: (files: File[]) => void;
  fileError?: string | null;
  /** What stands after the question for the title. */
  after?: React.ReactNode;
}) {
  const shown = new Set(shownQuestions(questions, values).map((q) => q.id));
  return (
    <>
      <noscript>
        <style>{".only-if{display:flex !important}"}</style>
      </noscript>
      {questions.map((q) => {
        const error =
          q.kind === "files" && fileError
            ? fileError
            : errors.find((e) => e.field === q.id)?.message;
        const given = values[q.id] ?? [];
        return (
          <div
            key={q.id}
            data-question={q.id}
            className={`flex flex-col gap-1 ${q.shownIf ? "only-if" : ""}`}
            style={shown.has(q.id) ? undefined : { display: "none" }}
          >
            {q.kind === "several of" ||
            q.kind === "yes or no" ||
            (q.kind === "one of" && q.options.length <= 5) ? (
              <fieldset
                data-wrong={error ? true : undefined}
                aria-describedby={error ? `${q.id}-error` : undefined}
              >
                <legend className="mb-1 font-semibold">
                  <Words question={q} />
                </legend>
                <div className="flex flex-wrap gap-x-5 gap-y-1">
                  {answersOf(q).map((option) => (
                    <label key={option} className="inline-flex items-center gap-2">
                      {q.kind === "several of" ? (
                        <Check
                          name={q.id}
                          value={option}
                          checked={given.includes(option)}
                          onChange={(on) =>
                            onChange(
                              q.id,
                              on ? [...given, option] : given.filter((g) => g !== option),
                            )
                          }
                        />
                      ) : (
                        <Choice
                          name={q.id}
                          value={option}
                          checked={given.includes(option)}
                          onChange={() => onChange(q.id, [option])}
                        />
                      )}
                      {option}
                    </label>
                  ))}
                </div>
              </fieldset>
            ) : (
              <>
                <label htmlFor={q.id} className="font-semibold">
                  <Words question={q} />
                </label>
                <Input
                  question={q}
                  value={given[0] ?? ""}
                  invalid={Boolean(error)}
                  onChange={(v) => onChange(q.id, [v])}
                  files={files}
                  onFiles={onFiles}
                />
              </>
            )}
            {error && (
              <p id={`${q.id}-error`} role="alert" className="text-[13px] font-semibold text-alarm">
                {error}
              </p>
            )}
            {q.fills === "title" && after}
          </div>
        );
      })}
    </>
  );
}

function Words({ question: q }: { question: FormQuestion }) {
  return (
    <>
      {q.label} {!q.required && <span className="font-normal text-ink-soft">(if you like)</span>}
      {q.help &&
        (q.kind === "several of" ||
          q.kind === "yes or no" ||
          q.kind === "files" ||
          q.kind === "date" ||
          q.kind === "number" ||
          q.kind === "one of") && (
          <span className="block text-[13px] font-normal text-ink-soft">{q.help}</span>
        )}
    </>
  );
}

function Input({
  question: q,
  value,
  invalid,
  onChange,
  files,
  onFiles,
}: {
  question: FormQuestion;
  value: string;
  invalid: boolean;
  onChange: (value: string) => void;
  files: readonly File[];
  onFiles?: (files: File[]) => void;
}) {
  const common = {
    id: q.id,
    name: q.id,
    // What depends on an answer is not demanded by the browser: without JavaScript it cannot know.
    required: q.required && !q.shownIf,
    "aria-invalid": invalid,
    "aria-describedby": invalid ? `${q.id}-error` : undefined,
  };
  const typed = {
    ...common,
    value,
    onChange: (e: { target: { value: string } }) => onChange(e.target.value),
  };
  switch (q.kind) {
    case "long text":
      return <TextArea {...typed} rows={4} placeholder={q.help || undefined} />;
    case "one of":
      return <PlainSelect {...typed} options={q.options} none="choose…" />;
    case "files":
      return (
        <ChosenFiles
          {...common}
          accept={ACCEPTED}
          words="Choose files"
          files={files}
          most={MOST_FILES}
          onChange={(chosen) => onFiles?.(chosen)}
        />
      );
    case "number":
      return <TextInput {...typed} className="!w-40" inputMode="decimal" maxLength={40} />;
    case "date":
      return <DateInput {...common} value={value} onChange={onChange} />;
    case "mail":
      return (
        <TextInput
          {...typed}
          type="email"
          autoComplete="email"
          placeholder={q.help || "you@post.example"}
          maxLength={200}
        />
      );
    default:
      return <TextInput {...typed} maxLength={400} placeholder={q.help || undefined} />;
  }
}
