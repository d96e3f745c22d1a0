import type { FormQuestion } from "./form";

/**
 * The questions with one more, under an id that none has yet. A part of the report comes last, a
 * question of one's own before the one for the address.
 */
export function withQuestion(
  questions: readonly FormQuestion[],
  question: FormQuestion,
): { id: string; questions: FormQuestion[] } {
  let id = question.id;
  for (let n = 2; questions.some((q) => q.id === id); n++) id = `${question.id}-${n}`;
  const mail = Math.max(
    0,
    questions.findIndex((q) => q.fills === "mail"),
  );
  const at = question.fills ? questions.length : mail;
  return { id, questions: questions.toSpliced(at, 0, { ...question, id }) };
}

/** The questions with one at another place, from 0; outside of them, at their nearest end. */
export function withQuestionAt(
  questions: readonly FormQuestion[],
  id: string,
  to: number,
): FormQuestion[] {
  const moved = questions.filter((q) => q.id === id);
  const rest = questions.filter((q) => q.id !== id);
  return rest.toSpliced(Math.max(0, Math.min(to, rest.length)), 0, ...moved);
}
