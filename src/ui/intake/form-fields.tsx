"use client";
import { answersOf, shownQuestions, type FormQuestion, type RawAnswers } from "@/core/intake/form";

export const LARGEST_FILE_MB = 5;
export const MOST_FILES = 5;
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
  onFiles,
  fileError,
  after,
}: {
  questions: readonly FormQuestion[];
  values: RawAnswers;
  errors: readonly { field: string; message: string }[];
  onChange: (id: string, value: string[]) => void;
  onFiles?: (files: File[]) => void;
  fileError?: string;
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
            className={`flex flex-col gap-1 ${q.shownIf ? "only-if" : ""}`}
            style={shown.has(q.id) ? undefined : { display: "none" }}
          >
            {q.kind === "several of" ||
            q.kind === "yes or no" ||
            (q.kind === "one of" && q.options.length <= 5) ? (
              <fieldset aria-describedby={error ? `${q.id}-error` : undefined}>
                <legend className="mb-1 font-semibold">
                  <Words question={q} />
                </legend>
                <div className="flex flex-wrap gap-x-5 gap-y-1">
                  {answersOf(q).map((option) => (
                    <label key={option} className="inline-flex items-center gap-2">
                      <input
                        type={q.kind === "several of" ? "checkbox" : "radio"}
                        name={q.id}
                        value={option}
                        className="size-4 accent-(--accent)"
                        checked={given.includes(option)}
                        onChange={(e) =>
                          onChange(
                            q.id,
                            q.kind !== "several of"
                              ? [option]
                              : e.target.checked
                                ? [...given, option]
                                : given.filter((g) => g !== option),
                          )
                        }
                      />
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
                  onFiles={onFiles}
                />
              </>
            )}
            {error && (
              <p id={`${q.id}-error`} className="text-[13px] font-semibold text-alarm">
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
  onFiles,
}: {
  question: FormQuestion;
  value: string;
  invalid: boolean;
  onChange: (value: string) => void;
  onFiles?: (files: File[]) => void;
}) {
  const common = {
    id: q.id,
    name: q.id,
    className: "field",
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
      return <textarea {...typed} rows={4} placeholder={q.help || undefined} />;
    case "one of":
      return (
        <select {...typed}>
          <option value="">choose…</option>
          {q.options.map((o) => (
            <option key={o}>{o}</option>
          ))}
        </select>
      );
    case "files":
      return (
        <input
          {...common}
          type="file"
          multiple
          accept={ACCEPTED}
          onChange={(e) => onFiles?.([...(e.target.files ?? [])])}
        />
      );
    case "number":
      return <input {...typed} className="field !w-40" inputMode="decimal" maxLength={40} />;
    case "date":
      return <input {...typed} className="field !w-48" type="date" />;
    case "mail":
      return (
        <input
          {...typed}
          type="email"
          autoComplete="email"
          placeholder={q.help || "you@post.example"}
          maxLength={200}
        />
      );
    default:
      return <input {...typed} maxLength={400} placeholder={q.help || undefined} />;
  }
}
