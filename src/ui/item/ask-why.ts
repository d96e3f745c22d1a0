import { projectKeyOf } from "@/core/item/key";
import { planContract } from "@/core/plan/contract";
import type { AskedScope, ScopeQuestion } from "@/core/plan/scope-reason";
import { ask } from "@/ui/kit/request";

/** What was changed of sprints that run, and nobody has said why yet; the latest last. */
let asked: readonly AskedScope[] = [];
const listeners = new Set<() => void>();

function put(next: readonly AskedScope[]): void {
  asked = next;
  for (const tell of listeners) tell();
}

export const whyAsked = (): readonly AskedScope[] => asked;

export function hearWhyAsked(tell: () => void): () => void {
  listeners.add(tell);
  return () => void listeners.delete(tell);
}

/** Asks, beside the page, why what a sprint holds was changed while it runs. */
export const askWhy = (key: string, question: ScopeQuestion): void =>
  put([...asked.filter(({ itemId }) => itemId !== question.itemId), { ...question, key }]);

/** Asks no more about an item: what was done was taken back. */
export const askNotWhy = (itemId: string): void => {
  if (asked.some((one) => one.itemId === itemId)) put(asked.filter((one) => one.itemId !== itemId));
};

/** Asks nothing any more; the report of the sprint still does. */
export const leaveWhy = (): void => put([]);

/** Keeps why something came into a sprint that runs, or went out of it. @throws Problem */
export const sayWhy = (
  projectKey: string,
  { itemId, seq, sprintId }: Pick<ScopeQuestion, "itemId" | "seq" | "sprintId">,
  words: string,
) =>
  ask(planContract.sayWhy, {
    params: { key: projectKey, sprint: sprintId },
    body: { itemId, seq, words },
  });

/** Keeps one reason for all that is asked about. @throws Problem where one of them was refused */
export async function sayWhyOfAll(words: string): Promise<void> {
  for (const question of asked) {
    await sayWhy(projectKeyOf(question.key), question, words);
    askNotWhy(question.itemId);
  }
}
