import { problemOf, type Problem } from "@/ui/kit/request";
import { withMore, type Answers, type Names } from "./ask-form";

/** What was refused and could be answered, and where the answers go; null leaves it as it is. */
export interface AskedFirst {
  problem: Problem;
  names: Names;
  answer: (answers: Answers | null) => void;
}

const NOBODY: Names = { people: [], teams: [], sprints: [], releases: [] };

/** One is asked after the other. */
let waiting: readonly AskedFirst[] = [];
const listeners = new Set<() => void>();

function wait(next: readonly AskedFirst[]): void {
  waiting = next;
  for (const tell of listeners) tell();
}

export const askedNow = (): AskedFirst | null => waiting[0] ?? null;

export function hearAsked(tell: () => void): () => void {
  listeners.add(tell);
  return () => void listeners.delete(tell);
}

const answersTo = (problem: Problem, names: Names): Promise<Answers | null> =>
  new Promise((resolve) => {
    const asked: AskedFirst = {
      problem,
      names,
      answer: (answers) => {
        wait(waiting.filter((one) => one !== asked));
        resolve(answers);
      },
    };
    wait([...waiting, asked]);
  });

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
      given = withMore(given, more);
    }
  }
}
