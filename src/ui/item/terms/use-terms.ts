"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import type { z } from "zod";
import { itemContract } from "@/core/item/contract";
import type { termEditBody } from "@/core/item/terms/edit";
import type { TermsView } from "@/core/item/terms/view";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, queryOf } from "@/ui/kit/request";
import { ofDesign, useReadAgain } from "@/ui/kit/use-read-again";

const NONE: TermsView = {
  project: { id: "", key: "" },
  terms: [],
  rights: { edit: false, follow: false },
};

/** How long what is known of a project's words is taken as it is; changes are told at once. */
const FRESH_MS = 60_000;

const termsOf = (projectKey: string) => ({
  ...queryOf(itemContract.terms, { params: { key: projectKey } }),
  staleTime: FRESH_MS,
});

/** Takes over what came with the page, and reads again when somebody changes the words. */
export function useFirstTerms(projectKey: string, first: TermsView): void {
  const client = useQueryClient();
  useQuery({ ...termsOf(projectKey), initialData: first });
  useReadAgain(ofDesign, () =>
    client.invalidateQueries({
      queryKey: keyOf(itemContract.terms, { params: { key: projectKey } }),
    }),
  );
}

/** The labels and parts of a project; none as long as they are not known. */
export const useTerms = (projectKey: string, wanted = true): TermsView =>
  useQuery({ ...termsOf(projectKey), enabled: wanted }).data ?? NONE;

/** Keeps the figures of a project's words as they are while somebody looks at them. */
export function useTermsFollowed(projectKey: string): void {
  const client = useQueryClient();
  useReadAgain(
    ({ kind }) => kind === "item",
    () =>
      client.invalidateQueries({
        queryKey: keyOf(itemContract.terms, { params: { key: projectKey } }),
      }),
  );
}

/** Changes the words of a project. True when that was done. */
export function useTermEdit(projectKey: string) {
  const client = useQueryClient();
  return useCallback(
    async (body: z.input<typeof termEditBody>, done?: string, undo?: () => Promise<unknown>) => {
      const params = { key: projectKey };
      try {
        const after = await ask(itemContract.editTerms, { params, body });
        client.setQueryData(keyOf(itemContract.terms, { params }), after);
        if (done) tellDone(done, undo && (async () => void (await undo())));
        return true;
      } catch (error) {
        tellProblem(error);
        return false;
      }
    },
    [client, projectKey],
  );
}
