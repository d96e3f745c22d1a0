"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import type { z } from "zod";
import { workflowContract } from "@/core/workflow/contract";
import type { SourceView } from "@/core/workflow/event-source";
import type { sourceBody } from "@/core/workflow/request";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, queryOf } from "@/ui/kit/request";

/** Who posts events to a project, and what can be done about it. */
export function useSources(projectKey: string) {
  const client = useQueryClient();
  const params = { key: projectKey };
  const { data, error } = useQuery({ ...queryOf(workflowContract.sources, { params }) });
  const store = async (body: z.input<typeof sourceBody>) => {
    const answer = await ask(workflowContract.changeSources, { params, body });
    await client.invalidateQueries({ queryKey: keyOf(workflowContract.sources, { params }) });
    return answer;
  };
  /** Does something that can be taken back, and says so. */
  const change = async (
    words: string,
    body: z.input<typeof sourceBody>,
    back?: z.input<typeof sourceBody>,
  ) => {
    try {
      await store(body);
      tellDone(words, back && (() => store(back).then(() => {})));
    } catch (problem) {
      tellProblem(problem);
    }
  };
  const acts = {
    /** @returns its secret, which is told this once; null where it was not added */
    add: async (name: string): Promise<{ id: string; secret: string } | null> => {
      try {
        const { id, secret } = await store({ kind: "add", name });
        return secret === null ? null : { id, secret };
      } catch (problem) {
        tellProblem(problem);
        return null;
      }
    },
    askAt: ({ id, name, asksAt: before }: SourceView, asksAt: string | null) =>
      change(
        `${name} ${asksAt === null ? "takes no requests any more" : `takes requests at ${asksAt}`}.`,
        { kind: "asks", id, asksAt },
        { kind: "asks", id, asksAt: before },
      ),
    attach: ({ id, name }: SourceView, key: string, on: boolean) =>
      change(
        `${name} speaks for ${key} ${on ? "too" : "no more"}.`,
        { kind: "attach", id, projectKey: key, on },
        { kind: "attach", id, projectKey: key, on: !on },
      ),
    remove: ({ id, name }: SourceView) =>
      change(`${name} is not heard any more.`, { kind: "remove", id }),
  };
  return { data, error, acts };
}

export type SourceActs = ReturnType<typeof useSources>["acts"];
