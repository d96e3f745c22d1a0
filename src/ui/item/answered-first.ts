import { problemOf, type Problem } from "@/ui/kit/request";
import type { Answers, Names } from "./ask-form";

/** What was refused and could be answered, and where the answers go; null leaves it as it is. */
export interface AskedFirst {
  problem: Problem;
  names: Names;
  answer: (answers: Answers | null) => void;
}

const NOBODY: Names = { people: [], teams: [], sprints: [], releases: [] };

let asked: AskedFirst | null = null;
const listeners = new Set<() => void>();

function show(next: AskedFirst | null): void {
  asked = next;
  for (const tell of listeners) tell();
}

export const askedNow = (): AskedFirst | null => asked;

export function hearAsked(tell: () => void): () => void {
  listeners.add(tell);
  return () => void listeners.delete(tell);
}

const answersTo = (problem: Problem, names: Names): Promise<Answers | null> =>
  new Promise((resolve) =>
    show({
      problem,
      names,
      answer: (answers) => {
        show(null);
        resolve(answers);
      },
    }),
  );

/**
 * Sends something that may be refused for want of an answer: then that is asked for, over the page,
 * and it is sent once more with the answers.
 * @param names what can be chosen from in an answer
 * @throws Problem where it is refused for good, or nobody answers; that was read then
 */
export async function answeredFirst<T>(
  send: (given: Answers) => Promise<T>,
  names: Names = NOBODY,
): Promise<T> {
  let given: Answers = { answers: {} };
  for (;;) {
    try {
      return await send(given);
    } catch (error) {
      const problem = problemOf(error);
      if (problem.asks.length === 0) throw problem;
      const more = await answersTo(problem, names);
      if (more === null) throw Object.assign(problem, { wasRead: true });
      given = {
        answers: { ...given.answers, ...more.answers },
        overrideReason: more.overrideReason ?? given.overrideReason,
      };
    }
  }
}
