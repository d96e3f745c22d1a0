import { z } from "zod";
import { parseIsoDate } from "@/core/calendar/zone";
import { plainText } from "@/core/formats/plain-text";

export const QUESTION_KINDS = [
  "short text",
  "long text",
  "one of",
  "several of",
  "yes or no",
  "number",
  "date",
  "mail",
  "files",
] as const;
export type QuestionKind = (typeof QUESTION_KINDS)[number];

/** What of a report a question fills; the other questions are a form's own. */
export const REPORT_PARTS = ["title", "happened", "reproduce", "place", "mail", "files"] as const;
export type ReportPart = (typeof REPORT_PARTS)[number];

export interface FormQuestion {
  /** Names its field in what the form sends. */
  id: string;
  fills: ReportPart | null;
  kind: QuestionKind;
  label: string;
  help: string;
  required: boolean;
  /** For "one of" and "several of". */
  options: string[];
  /** Asked only if an earlier question was answered so. */
  shownIf: { questionId: string; is: string } | null;
}

/** A public form: what it asks, in which order, and where what it takes in lands. */
export interface FormDefinition {
  title: string;
  intro: string;
  questions: FormQuestion[];
  thanks: string;
  lands: { teamId: string | null; typeId: string | null };
  /** Whether known problems that look alike are offered while the title is typed. */
  offersKnown: boolean;
}

export interface FormAnswer {
  questionId: string;
  label: string;
  /** Several chosen options stand with commas between them. */
  value: string;
}

export const YES_NO = ["yes", "no"] as const;
const KIND_OF_PART: Record<ReportPart, QuestionKind> = {
  title: "short text",
  happened: "long text",
  reproduce: "long text",
  place: "short text",
  mail: "mail",
  files: "files",
};
const LONGEST: Record<QuestionKind, number> = {
  "short text": 200,
  "long text": 10_000,
  "one of": 200,
  "several of": 2_000,
  "yes or no": 3,
  number: 40,
  date: 10,
  mail: 200,
  files: 0,
};
export const MOST_QUESTIONS = 40;

const idSchema = z
  .string()
  .regex(/^[a-z][a-z0-9-]{0,39}$/, "An id is of small letters, digits and dashes.");

const questionSchema = z.object({
  id: idSchema,
  fills: z.enum(REPORT_PARTS).nullable(),
  kind: z.enum(QUESTION_KINDS),
  label: z.string().trim().min(1, "A question needs its words.").max(200),
  help: z.string().trim().max(400),
  required: z.boolean(),
  options: z.array(z.string().trim().min(1, "An option needs words.").max(200)).max(30),
  shownIf: z.object({ questionId: idSchema, is: z.string().min(1).max(200) }).nullable(),
});

export const formDefinitionSchema: z.ZodType<FormDefinition> = z
  .object({
    title: z.string().trim().min(1, "A form needs a title.").max(120),
    intro: z.string().trim().max(2_000),
    questions: z
      .array(questionSchema)
      .max(MOST_QUESTIONS, `A form has at most ${MOST_QUESTIONS} questions.`),
    thanks: z.string().trim().max(2_000),
    lands: z.object({
      teamId: z.string().max(64).nullable(),
      typeId: z.string().max(64).nullable(),
    }),
    offersKnown: z.boolean(),
  })
  .superRefine((form, context) => {
    for (const { at, message } of formFaults(form))
      context.addIssue({
        code: "custom",
        path: at === null ? ["questions"] : ["questions", at],
        message,
      });
  });

export interface FormFault {
  /** The place of the question, or null for the form as a whole. */
  at: number | null;
  message: string;
}

/** What keeps a form from being used, in words; empty when it can be. */
export function formFaults({ questions }: Pick<FormDefinition, "questions">): FormFault[] {
  const faults: FormFault[] = [];
  const seen = new Map<string, FormQuestion>();
  questions.forEach((q, at) => {
    const say = (message: string) => faults.push({ at, message });
    if (seen.has(q.id)) say("Two questions have the same id.");
    if (q.fills && q.kind !== KIND_OF_PART[q.fills])
      say(`What fills “${q.fills}” is asked as ${KIND_OF_PART[q.fills]}.`);
    if (q.fills && questions.some((o, i) => i < at && o.fills === q.fills))
      say(`“${q.fills}” is asked twice.`);
    if (!q.fills && (q.kind === "files" || q.kind === "mail"))
      say("Files and the mail address are asked for once, as parts of the report.");
    if (
      (q.kind === "one of" || q.kind === "several of") &&
      (q.options.length < 2 || new Set(q.options).size < q.options.length)
    )
      say("It needs at least two options, each another.");
    // Options are told apart by commas where several are chosen.
    if (q.kind === "several of" && q.options.some((o) => o.includes(",")))
      say("An option of which several can be chosen has no comma.");
    if ((q.fills === "title" || q.fills === "mail") && (q.shownIf || !q.required))
      say("This is always asked for: without it a report cannot be read or answered.");
    if (q.shownIf) {
      const asked = seen.get(q.shownIf.questionId);
      if (!asked) say("It depends on a question that does not come before it.");
      else if (!answersOf(asked).includes(q.shownIf.is))
        say("It depends on an answer that cannot be given.");
    }
    seen.set(q.id, q);
  });
  for (const part of ["title", "mail"] as const)
    if (!questions.some((q) => q.fills === part))
      faults.push({
        at: null,
        message:
          part === "title"
            ? "A form asks what it is about, in a few words."
            : "A form asks for a mail address, or nobody hears back.",
      });
  return faults;
}

/** The answers that can be given to a question, where they can be counted. */
export function answersOf(q: Pick<FormQuestion, "kind" | "options">): readonly string[] {
  return q.kind === "yes or no"
    ? YES_NO
    : q.kind === "one of" || q.kind === "several of"
      ? q.options
      : [];
}

/** What was typed and chosen, by the ids of the questions. */
export type RawAnswers = Readonly<Record<string, readonly string[] | undefined>>;

/**
 * The questions that are asked, given the answers so far; one that depends on a hidden one is
 * hidden too.
 */
export function shownQuestions(
  questions: readonly FormQuestion[],
  answers: RawAnswers,
): FormQuestion[] {
  const shown = new Set<string>();
  return questions.filter((q) => {
    const asked =
      !q.shownIf ||
      (shown.has(q.shownIf.questionId) &&
        (answers[q.shownIf.questionId] ?? []).includes(q.shownIf.is));
    if (asked) shown.add(q.id);
    return asked;
  });
}

/** What was sent by a form and could not be taken, with what is wrong at which question. */
export interface FormAttempt {
  values: RawAnswers;
  errors: { field: string; message: string }[];
}

export interface ReadForm {
  report: Record<Exclude<ReportPart, "files">, string>;
  answers: FormAnswer[];
  /** By the ids of the questions. */
  errors: { field: string; message: string }[];
}

const MAIL = z.email();

/**
 * Reads what a form sent. What was not asked is left out, whatever was sent for it; each fault
 * stands at its question.
 * @example readForm(form, { title: ["Gate hums"], mail: ["a@b.example"] }).report.title // "Gate
 *   hums"
 */
export function readForm(form: Pick<FormDefinition, "questions">, raw: RawAnswers): ReadForm {
  const read: ReadForm = {
    report: { title: "", happened: "", reproduce: "", place: "", mail: "" },
    answers: [],
    errors: [],
  };
  for (const q of shownQuestions(form.questions, raw)) {
    if (q.kind === "files") continue;
    const given = (raw[q.id] ?? []).map((v) => plainText(v).trim()).filter(Boolean);
    const value = q.kind === "several of" ? given.join(", ") : (given[0] ?? "");
    const message = value === "" ? (q.required ? missing(q) : null) : faultOf(q, value, given);
    if (message) read.errors.push({ field: q.id, message });
    else if (q.fills && q.fills !== "files") read.report[q.fills] = value;
    else if (value !== "") read.answers.push({ questionId: q.id, label: q.label, value });
  }
  return read;
}

const missing = (q: FormQuestion) =>
  q.fills === "title"
    ? "Say in a few words what it is about."
    : q.fills === "happened"
      ? "Tell us what happened."
      : q.fills === "mail"
        ? "Without an address we cannot answer you."
        : "This is needed.";

function faultOf(q: FormQuestion, value: string, given: readonly string[]): string | null {
  const most = LONGEST[q.kind];
  if (value.length > most)
    return q.fills === "title"
      ? "Use at most 200 characters here; the details go below."
      : `Use at most ${most.toLocaleString("en")} characters.`;
  if (q.kind === "mail")
    return MAIL.safeParse(value).success ? null : "This is no mail address we could write to.";
  if (q.kind === "number")
    return Number.isFinite(Number(value.replace(",", "."))) ? null : "Give a number.";
  if (q.kind === "date") return isDate(value) ? null : "Give a day, such as 2026-11-23.";
  const allowed = answersOf(q);
  if (allowed.length > 0 && !given.every((g) => allowed.includes(g)))
    return "Choose from what is offered.";
  return null;
}

function isDate(text: string): boolean {
  try {
    return parseIsoDate(text) !== null;
  } catch {
    return false;
  }
}

const part = (fills: ReportPart, label: string, help: string, required: boolean): FormQuestion => ({
  id: fills,
  fills,
  kind: KIND_OF_PART[fills],
  label,
  help,
  required,
  options: [],
  shownIf: null,
});

/** The questions that fill a report, as a form begins. */
export const PART_QUESTIONS: Record<ReportPart, FormQuestion> = {
  title: part("title", "In a few words", "", true),
  happened: part(
    "happened",
    "What happened?",
    "What you did, what you saw, what you had expected",
    true,
  ),
  reproduce: part(
    "reproduce",
    "How can we make it happen again?",
    "Step by step, if you know",
    false,
  ),
  place: part("place", "Where was it?", "Quay, boat, or page of the app", false),
  mail: part("mail", "Your mail address", "", true),
  files: part(
    "files",
    "Pictures or files",
    "Up to 5, each of at most 5 MB: pictures, PDF, plain text",
    false,
  ),
};

export const FIRST_FORM: FormDefinition = {
  title: "What went wrong?",
  intro: "A person reads every report, the oldest first. You need no account.",
  questions: REPORT_PARTS.map((p) => PART_QUESTIONS[p]),
  thanks: "",
  lands: { teamId: null, typeId: "bug" },
  offersKnown: true,
};
