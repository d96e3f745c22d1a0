"use client";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { planContract } from "@/core/plan/contract";
import type { ReleaseItem, ReleasesView, ReleaseView } from "@/core/plan/release-view";
import type { TimeboxRequest } from "@/core/plan/request";
import { sendCommand, undoCommand } from "@/ui/item/send-command";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, queryOf } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

/** The releases of a project and the one that is looked at, kept in step; the address names it. */
export function useReleases(initial: ReleasesView, first: ReleaseView | null) {
  const client = useQueryClient();
  const params = { key: initial.project.key };
  const [chosen, setChosen] = useState(first?.release.id ?? null);
  const all = queryOf(planContract.releases, { params });
  const { data: view } = useQuery({ ...all, initialData: initial });
  const one = queryOf(planContract.release, { params: { ...params, release: chosen ?? "" } });
  const { data: shown } = useQuery({
    ...one,
    enabled: chosen !== null,
    initialData: chosen === first?.release.id && first ? first : undefined,
    placeholderData: keepPreviousData,
  });
  const readAgain = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: all.queryKey }),
      client.invalidateQueries({ queryKey: one.queryKey }),
    ]);
  useReadAgain((message) => ["item", "design", "resync"].includes(message.kind), readAgain);
  const look = (id: string) => {
    setChosen(id);
    const address = new URL(window.location.href);
    address.searchParams.set("release", id);
    window.history.replaceState(null, "", address);
  };
  /** Puts an item into a release, or out of any; it can be taken back. */
  const put = async (
    { id, key, version }: ReleaseItem,
    to: { id: string; name: string } | null,
  ) => {
    try {
      const { commandId } = await sendCommand(id, {
        kind: "edit",
        seenVersion: version,
        changes: { releaseId: to?.id ?? null },
      });
      await readAgain();
      tellDone(to ? `${key} is in ${to.name}.` : `${key} is in no release now.`, async () => {
        await undoCommand(id, commandId);
        await readAgain();
      });
    } catch (error) {
      tellProblem(error);
      await readAgain();
    }
  };
  /** @returns whether it was stored */
  const store = async (body: TimeboxRequest): Promise<boolean> => {
    try {
      await ask(planContract.change, { params, body });
      if (body.kind === "release") look(body.release.id);
      return true;
    } catch (error) {
      tellProblem(error);
      return false;
    } finally {
      await readAgain();
    }
  };
  return { view, shown: shown ?? null, chosen, look, put, store };
}

export type ReleasesHandle = ReturnType<typeof useReleases>;
