"use client";
import { useQueryClient } from "@tanstack/react-query";
import { counted } from "@/core/formats/counted";
import { workflowContract } from "@/core/workflow/contract";
import type { Workflow } from "@/core/workflow/workflow";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, Problem } from "@/ui/kit/request";
import { strip, type useStoredDraft } from "./use-stored-draft";

/** What ends a draft: it is published, thrown away, or an earlier version takes its place. */
export function usePublishing(
  key: string,
  running: Workflow,
  { save, forget, revision }: ReturnType<typeof useStoredDraft>,
  edit: (change: (workflow: Workflow) => Workflow) => void,
) {
  const client = useQueryClient();
  const params = { key };
  const workflowId = running.id;
  const readAgain = () =>
    client.invalidateQueries({ queryKey: keyOf(workflowContract.design, { params }) });
  /** @throws Problem */
  const publishStored = async (newStates: Record<string, string>, note: string) => {
    const kept = await save();
    // What is published is what was stored and looked at, nothing else.
    if (!kept)
      throw new Problem({
        status: 409,
        sentence: "Your last changes are not stored, so nothing was published.",
        help: "Look at the draft again, then publish it.",
        code: "not stored",
      });
    const body = { workflowId, seenRevision: kept.revision, newStates, note };
    return ask(workflowContract.publish, { params, body }, { retry: false });
  };
  const publish = async (newStates: Record<string, string>, note: string): Promise<boolean> => {
    try {
      const { version, movedItems } = await publishStored(newStates, note);
      await readAgain();
      const moved =
        movedItems > 0
          ? ` ${counted(movedItems, "item")} ${movedItems === 1 ? "has" : "have"} a new state.`
          : "";
      tellDone(`Version ${version} is in force; open boards follow.${moved}`);
      return true;
    } catch (error) {
      tellProblem(error);
      await readAgain();
      return false;
    }
  };
  /** Answers whether the draft is gone. */
  const discard = async (): Promise<boolean> => {
    try {
      // What is on its way is stored first: it would make the draft another one meanwhile.
      const seenRevision = (await save())?.revision ?? revision;
      if (seenRevision > 0)
        await ask(workflowContract.discardDraft, { params, body: { workflowId, seenRevision } });
      forget(running);
      edit(() => strip(running));
      await readAgain();
      return true;
    } catch (error) {
      tellProblem(error);
      return false;
    }
  };
  /** Makes an earlier version the draft; publishing it brings it back. */
  const takeVersion = async (version: number) => {
    try {
      const query = { workflow: workflowId, version };
      const earlier = await ask(workflowContract.version, { params, query });
      edit((now) => ({ ...earlier, version: now.version }));
    } catch (error) {
      tellProblem(error);
    }
  };
  return { publish, discard, takeVersion };
}
