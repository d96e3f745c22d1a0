"use client";
import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { request } from "@/ui/kit/request";

/**
 * Sends a change of what belongs to a project's process, reads the process again, and says what was
 * done. True when it was.
 */
export type DesignRequest = (
  what: "types" | "fields" | "plan" | "boards",
  body: object,
  done?: string,
  undo?: () => Promise<unknown>,
) => Promise<boolean>;

export function useDesignRequest(projectKey: string): DesignRequest {
  const client = useQueryClient();
  return useCallback(
    async (what, body, done, undo) => {
      try {
        await request(`/api/projects/${projectKey}/${what}`, { body });
        if (done) tellDone(done, undo && (async () => void (await undo())));
        return true;
      } catch (error) {
        tellProblem(error);
        return false;
      } finally {
        await client.invalidateQueries({ queryKey: ["design", projectKey] });
      }
    },
    [client, projectKey],
  );
}
