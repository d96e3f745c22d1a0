"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { shipContract } from "@/core/ship/contract";
import type { ProjectCode } from "@/core/ship/open-work";
import type { ShipSettings } from "@/core/ship/ship-settings";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, problemOf, queryOf, type Problem } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

/** What a project has in its code hosts, kept in step with what those tell. */
export function useProjectCode(initial: ProjectCode) {
  const client = useQueryClient();
  const params = { key: initial.project.key };
  const query = queryOf(shipContract.code, { params });
  const { data: view } = useQuery({ ...query, initialData: initial });
  const readAgain = () => client.invalidateQueries({ queryKey: query.queryKey });
  useReadAgain((message) => ["code", "item", "design", "resync"].includes(message.kind), readAgain);
  /** @returns what was wrong; null where it is stored */
  const settle = async (settings: Partial<ShipSettings>): Promise<Problem | null> => {
    const before = view.settings;
    try {
      await ask(shipContract.settings, { params, body: settings });
      await readAgain();
      tellDone("How code goes is changed.", async () => {
        await ask(shipContract.settings, { params, body: before });
        await readAgain();
      });
      return null;
    } catch (error) {
      return problemOf(error);
    }
  };
  /** Says who commits under an address. */
  const name = async (mail: string, personId: string, words: string) => {
    const store = (id: string | null) =>
      ask(shipContract.author, { params, body: { mail, personId: id } });
    try {
      await store(personId);
      await readAgain();
      tellDone(words, async () => {
        await store(null);
        await readAgain();
      });
    } catch (error) {
      tellProblem(error);
    }
  };
  return { view, settle, name };
}

export type ProjectCodeHandle = ReturnType<typeof useProjectCode>;
