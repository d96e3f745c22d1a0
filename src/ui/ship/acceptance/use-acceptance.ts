"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import type { AcceptanceView, ShowingView } from "@/core/ship/acceptance/acceptance-view";
import { acceptanceContract, type ShowingStep } from "@/core/ship/acceptance/contract";
import type { AcceptanceBody, ShowBody } from "@/core/ship/acceptance/shown-item";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, problemOf, queryOf, type Problem } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

const DONE_WORDS: Record<ShowingStep, (name: string) => string> = {
  "take back": (name) => `What was shown to ${name} is taken back.`,
  remind: (name) => `${name} is reminded.`,
  "ask again": (name) => `${name} is asked again, for 30 days.`,
};

/** What waits to be accepted and whom it was shown to, kept in step. */
export function useAcceptance(initial: AcceptanceView) {
  const client = useQueryClient();
  const params = { key: initial.project.key };
  const query = queryOf(acceptanceContract.page, { params });
  const { data: view } = useQuery({ ...query, initialData: initial });
  const readAgain = () => client.invalidateQueries({ queryKey: query.queryKey });
  useReadAgain(
    ({ kind }) => ["tests", "item", "code", "design", "resync"].includes(kind),
    readAgain,
  );
  const take = async (showing: string, step: ShowingStep) => {
    await ask(acceptanceContract.step, { params: { ...params, showing }, body: { step } });
    await readAgain();
  };
  /** Takes it back, reminds, or asks once more; what was taken back can be asked again. */
  const step = async ({ id, name }: ShowingView, what: ShowingStep) => {
    try {
      await take(id, what);
      const undo = what === "take back" ? () => take(id, "ask again") : undefined;
      tellDone(DONE_WORDS[what](name), undo);
    } catch (error) {
      tellProblem(error);
    }
  };
  /** Shows work to people. @returns the pages that came of it, or what was wrong */
  const show = async (
    body: ShowBody,
  ): Promise<{ name: string; page: string | null }[] | Problem> => {
    try {
      const { pages } = await ask(acceptanceContract.show, { params, body });
      await readAgain();
      return pages;
    } catch (error) {
      return problemOf(error);
    }
  };
  /** What whoever looks says of what is shown to them. @returns what was wrong; null where it is kept */
  const say = async (showing: string, body: AcceptanceBody): Promise<Problem | null> => {
    try {
      await ask(acceptanceContract.say, { params: { ...params, showing }, body });
      await readAgain();
      return null;
    } catch (error) {
      return problemOf(error);
    }
  };
  return { view, step, show, say };
}

export type AcceptanceHandle = ReturnType<typeof useAcceptance>;
