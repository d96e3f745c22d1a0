"use client";
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { workflowContract } from "@/core/workflow/contract";
import type { DesignView } from "@/core/workflow/design-view";
import { mergeWorkflows, type Merged } from "@/core/workflow/merge";
import type { Workflow } from "@/core/workflow/workflow";
import { tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, Problem } from "@/ui/kit/request";
import { useWarnBeforeLeaving } from "@/ui/kit/use-warn-before-leaving";
import { openClashes, useClashes } from "./use-clashes";
import { sameProcess } from "./use-steps";

const SAVE_AFTER_MS = 500;
/** What could not be stored is tried again by itself. */
const STORE_AGAIN_MS = 15_000;

/** What of a draft the server has stored; revision 0 where there is none. */
export interface StoredDraft {
  revision: number;
  baseVersion: number;
  definition: Workflow;
}

/** A workflow without what the view adds to it. */
export function strip({ id, name, version, states, transitions }: Workflow): Workflow {
  return { id, name, version, states, transitions };
}

/** The draft of a workflow as a view has it; the running process where nobody has made one. */
export function storedIn(view: DesignView, workflowId: string): StoredDraft | null {
  const running = view.workflows.find((w) => w.id === workflowId);
  if (!running) return null;
  const draft = view.drafts.find((d) => d.workflowId === workflowId);
  return draft ?? { revision: 0, baseVersion: running.version, definition: strip(running) };
}

/**
 * Drafts that somebody went away from before they were stored, with what they were made from, by
 * the workflow.
 */
const leftUnstored = new Map<string, { draft: Workflow; from: Workflow }>();

/** A draft that was left before it was stored, brought together with what is stored now. */
export function broughtBack(workflowId: string, stored: Workflow): Merged | null {
  const left = leftUnstored.get(workflowId);
  return left ? mergeWorkflows(left.from, left.draft, stored) : null;
}

/**
 * Keeps a draft stored: by itself shortly after each step, again where that failed, and once more
 * when it is left; what somebody else stores meanwhile is brought together with it.
 */
export function useStoredDraft(
  view: DesignView,
  workflowId: string,
  draft: Workflow,
  put: (workflow: Workflow) => void,
) {
  const client = useQueryClient();
  const { key } = view.project;
  const [stored, setStored] = useState(() => storedIn(view, workflowId)!);
  /** How often in a row storing failed. */
  const [failures, setFailures] = useState(0);
  const {
    clashes,
    ask: askAbout,
    answered,
  } = useClashes(() => {
    const left = leftUnstored.get(workflowId);
    const merged = broughtBack(workflowId, stored.definition);
    return merged && left ? openClashes(merged, left.draft, storedBy(view, workflowId)) : [];
  });
  const latest = useRef({ draft, stored });
  useEffect(() => {
    latest.current = { draft, stored };
  });

  /** Brings what somebody else stored or published together with what is here. */
  const takeIn = useCallback(
    (fresh: DesignView) => {
      const next = storedIn(fresh, workflowId);
      const mine = latest.current;
      // A limit may change at the board where nobody has a draft yet.
      const known =
        next?.revision === mine.stored.revision &&
        next.baseVersion === mine.stored.baseVersion &&
        sameProcess(next.definition, mine.stored.definition);
      if (!next || known) return;
      const merged = mergeWorkflows(mine.stored.definition, mine.draft, next.definition);
      setStored(next);
      put(merged.workflow);
      askAbout(openClashes(merged, mine.draft, storedBy(fresh, workflowId)));
    },
    [workflowId, put, askAbout],
  );
  useEffect(() => takeIn(view), [view, takeIn]);

  const store = useCallback(async (): Promise<StoredDraft | null> => {
    const mine = latest.current;
    if (sameProcess(mine.draft, mine.stored.definition)) return mine.stored;
    const { revision: seenRevision, baseVersion } = mine.stored;
    try {
      const saved = await ask(workflowContract.saveDraft, {
        params: { key },
        body: { workflowId, seenRevision, baseVersion, definition: mine.draft },
      });
      const next: StoredDraft = { ...saved, definition: mine.draft };
      latest.current = { ...latest.current, stored: next };
      leftUnstored.delete(workflowId);
      setStored(next);
      setFailures(0);
      // Whoever comes back to this workflow finds what is stored; and a reading that began before
      // would bring back what was stored until then.
      const reading = { queryKey: keyOf(workflowContract.design, { params: { key } }) };
      client.setQueryData(reading.queryKey, (view: DesignView | undefined) =>
        view ? withDraft(view, workflowId, next) : view,
      );
      if (client.isFetching(reading) > 0)
        void client.cancelQueries(reading).then(() => client.invalidateQueries(reading));
      return next;
    } catch (error) {
      if (error instanceof Problem && error.code === "conflict") {
        const fresh = await ask(workflowContract.design, { params: { key } });
        client.setQueryData(keyOf(workflowContract.design, { params: { key } }), fresh);
        return null;
      }
      setFailures((n) => n + 1);
      tellProblem(error);
      return null;
    }
  }, [client, key, workflowId]);
  const waiting = useRef<Promise<unknown>>(Promise.resolve());
  /**
   * Stores the draft, one after the other. @returns what is stored then; null where it could not be
   */
  const save = useCallback(() => {
    const result = waiting.current.then(store, store);
    waiting.current = result;
    return result;
  }, [store]);

  const isStored = sameProcess(draft, stored.definition);
  useEffect(() => {
    if (isStored) return;
    const timer = setTimeout(() => void save(), failures > 0 ? STORE_AGAIN_MS : SAVE_AFTER_MS);
    return () => clearTimeout(timer);
  }, [draft, stored, isStored, save, failures]);

  // Whoever goes to another place before the draft is stored finds it again on coming back, and it
  // is tried once more at once.
  useWarnBeforeLeaving(!isStored);
  useEffect(
    () => () => {
      const { draft: left, stored: known } = latest.current;
      if (sameProcess(left, known.definition)) return;
      leftUnstored.set(workflowId, { draft: left, from: known.definition });
      void save();
    },
    [save, workflowId],
  );
  /** That the draft was thrown away: what runs stands in its place. */
  const forget = (running: Workflow) => {
    leftUnstored.delete(workflowId);
    setStored({ revision: 0, baseVersion: running.version, definition: strip(running) });
  };
  const saving = isStored ? "stored" : failures > 0 ? "failed" : "waiting";
  return { saving, save, forget, revision: stored.revision, clashes, answered } as const;
}

/** Whoever stored the draft last, as a view has it. */
const storedBy = (view: DesignView, workflowId: string) =>
  view.drafts.find((d) => d.workflowId === workflowId)?.by ?? "Somebody else";

/** A view with what was just stored of a draft; who stored it is read with the next view. */
function withDraft(view: DesignView, workflowId: string, stored: StoredDraft): DesignView {
  const known = view.drafts.find((d) => d.workflowId === workflowId);
  const others = view.drafts.filter((d) => d !== known);
  const draft = { by: "you", ...known, workflowId, ...stored, at: Date.now() };
  return { ...view, drafts: [...others, draft] };
}
