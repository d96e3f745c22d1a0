"use client";
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { checkWorkflow } from "@/core/workflow/check";
import type { DesignView } from "@/core/workflow/design-view";
import { differences } from "@/core/workflow/difference";
import { addState } from "@/core/workflow/edit";
import { mergeWorkflows } from "@/core/workflow/merge";
import { same } from "@/core/workflow/same";
import type { Workflow } from "@/core/workflow/workflow";
import type { State, StateKind } from "@/core/workflow/state";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, Problem } from "@/ui/kit/request";
import { useWarnBeforeLeaving } from "@/ui/kit/use-warn-before-leaving";
import { v7 as newId } from "uuid";
import { workflowContract } from "@/core/workflow/contract";

const designKey = (key: string) => keyOf(workflowContract.design, { params: { key } });

export type Selection = { kind: "state"; id: string } | { kind: "transition"; id: string } | null;

/** What of a draft the server has stored. */
interface Stored {
  revision: number;
  baseVersion: number;
  definition: Workflow;
}

const SAVE_AFTER_MS = 500;
/** What could not be stored is tried again by itself. */
const STORE_AGAIN_MS = 15_000;

/**
 * Drafts that somebody went away from before they were stored, with what they were made from, by
 * the workflow.
 */
const leftUnstored = new Map<string, { draft: Workflow; from: Workflow }>();

/** The same process, whatever its number. */
const sameProcess = (a: Workflow, b: Workflow) => same({ ...a, version: 0 }, { ...b, version: 0 });

/**
 * A session of designing one workflow: every edit is a step that can be undone, the draft is stored
 * by itself shortly after each, and what somebody else stores meanwhile is brought together with
 * it.
 */
export function useDesigner(view: DesignView, workflowId: string) {
  const client = useQueryClient();
  const running = view.workflows.find((w) => w.id === workflowId)!;
  const storedView = view.drafts.find((d) => d.workflowId === workflowId);
  const key = view.project.key;
  const [steps, setSteps] = useState<{ list: Workflow[]; at: number }>(() => {
    const first = storedView?.definition ?? strip(running);
    const kept = leftUnstored.get(workflowId);
    return kept
      ? { list: [first, mergeWorkflows(kept.from, kept.draft, first).workflow], at: 1 }
      : { list: [first], at: 0 };
  });
  const [stored, setStored] = useState<Stored>(() => ({
    revision: storedView?.revision ?? 0,
    baseVersion: storedView?.baseVersion ?? running.version,
    definition: storedView?.definition ?? strip(running),
  }));
  /** How often in a row storing failed. */
  const [failures, setFailures] = useState(0);
  const [selection, setSelection] = useState<Selection>(null);
  const draft = steps.list[steps.at];
  const latest = useRef({ draft, stored });
  useEffect(() => {
    latest.current = { draft, stored };
  });

  const edit = useCallback((change: (workflow: Workflow) => Workflow) => {
    setSteps(({ list, at }) => {
      const next = change(list[at]);
      return next === list[at]
        ? { list, at }
        : { list: [...list.slice(Math.max(0, at - 200), at + 1), next], at: Math.min(at, 200) + 1 };
    });
  }, []);
  /**
   * A state right after another one: a wait after work, work after a wait, and after an end another
   * end.
   */
  const addAfter = (state: State) => {
    const id = newId();
    const kind: StateKind = state.kind === "working" ? "waiting" : "working";
    const name = kind === "waiting" ? "Waiting" : "Working";
    edit((w) =>
      addState(w, state.id, {
        id,
        name,
        kind: state.kind === "finished" ? "finished" : kind,
        stage: null,
        moveIds: [newId(), newId()],
      }),
    );
    setSelection({ kind: "state", id });
  };
  const undo = useCallback(
    () => setSteps(({ list, at }) => ({ list, at: Math.max(0, at - 1) })),
    [],
  );
  const redo = useCallback(
    () => setSteps(({ list, at }) => ({ list, at: Math.min(list.length - 1, at + 1) })),
    [],
  );

  /** Brings what somebody else stored or published together with what is here. */
  const takeIn = useCallback(
    (fresh: DesignView) => {
      const nowRunning = fresh.workflows.find((w) => w.id === workflowId);
      if (!nowRunning) return;
      const theirs = fresh.drafts.find((d) => d.workflowId === workflowId);
      const next: Stored = {
        revision: theirs?.revision ?? 0,
        baseVersion: theirs?.baseVersion ?? nowRunning.version,
        definition: theirs?.definition ?? strip(nowRunning),
      };
      const mine = latest.current;
      if (next.revision === mine.stored.revision && next.baseVersion === mine.stored.baseVersion)
        return;
      const { workflow, conflicts } = mergeWorkflows(
        mine.stored.definition,
        mine.draft,
        next.definition,
      );
      setStored(next);
      setSteps(({ list, at }) =>
        sameProcess(list[at], workflow)
          ? { list, at }
          : { list: [...list.slice(0, at + 1), workflow], at: at + 1 },
      );
      if (conflicts.length > 0)
        tellProblem(
          new Problem({
            status: 409,
            sentence: `Somebody else also changed ${conflicts.join(", ")}.`,
            help: "Theirs was kept; Undo brings yours back.",
            code: "conflict",
          }),
        );
    },
    [workflowId],
  );
  useEffect(() => takeIn(view), [view, takeIn]);

  const store = useCallback(async (): Promise<Stored | null> => {
    const mine = latest.current;
    if (sameProcess(mine.draft, mine.stored.definition)) return mine.stored;
    try {
      const { revision, baseVersion } = await ask(workflowContract.saveDraft, {
        params: { key },
        body: {
          workflowId,
          seenRevision: mine.stored.revision,
          baseVersion: mine.stored.baseVersion,
          definition: mine.draft,
        },
      });
      const next: Stored = { revision, baseVersion, definition: mine.draft };
      latest.current = { ...latest.current, stored: next };
      leftUnstored.delete(workflowId);
      setStored(next);
      setFailures(0);
      return next;
    } catch (error) {
      if (error instanceof Problem && error.code === "conflict") {
        const fresh = await ask(workflowContract.design, { params: { key } });
        client.setQueryData(designKey(key), fresh);
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

  const findings = useMemo(() => checkWorkflow(draft, view.around), [draft, view.around]);
  const changes = useMemo(
    () => differences(strip(running), draft, view.around.vocabulary),
    [running, draft, view.around],
  );

  const readAgain = () => client.invalidateQueries({ queryKey: designKey(key) });
  const publish = async (newStates: Record<string, string>, note: string): Promise<boolean> => {
    try {
      const kept = await save();
      // What is published is what was stored and looked at, nothing else.
      if (!kept)
        throw new Problem({
          status: 409,
          sentence: "Your last changes are not stored, so nothing was published.",
          help: "Look at the draft again, then publish it.",
          code: "not stored",
        });
      const { version, movedItems } = await ask(
        workflowContract.publish,
        {
          params: { key },
          body: { workflowId, seenRevision: kept.revision, newStates, note },
        },
        { retry: false },
      );
      await readAgain();
      tellDone(
        `Version ${version} is in force; open boards follow.${movedItems > 0 ? ` ${movedItems} ${movedItems === 1 ? "item has" : "items have"} a new state.` : ""}`,
      );
      return true;
    } catch (error) {
      tellProblem(error);
      await readAgain();
      return false;
    }
  };
  const discard = async () => {
    try {
      if (latest.current.stored.revision > 0)
        await ask(workflowContract.discardDraft, {
          params: { key },
          body: { workflowId, seenRevision: latest.current.stored.revision },
        });
      leftUnstored.delete(workflowId);
      setStored({ revision: 0, baseVersion: running.version, definition: strip(running) });
      edit(() => strip(running));
      setSelection(null);
      await readAgain();
    } catch (error) {
      tellProblem(error);
    }
  };
  /** Makes an earlier version the draft; publishing it brings it back. */
  const takeVersion = async (version: number) => {
    try {
      const earlier = await ask(workflowContract.version, {
        params: { key },
        query: { workflow: workflowId, version },
      });
      edit((now) => ({ ...earlier, version: now.version }));
    } catch (error) {
      tellProblem(error);
    }
  };
  return {
    running,
    draft,
    edit,
    addAfter,
    undo: steps.at > 0 ? undo : null,
    redo: steps.at < steps.list.length - 1 ? redo : null,
    selection,
    select: setSelection,
    saving: isStored
      ? ("stored" as const)
      : failures > 0
        ? ("failed" as const)
        : ("waiting" as const),
    findings,
    changes,
    publish,
    discard,
    takeVersion,
    draftOf: storedView ? { by: storedView.by, at: storedView.at } : null,
  };
}

export type Designer = ReturnType<typeof useDesigner>;

/** A workflow without what the view adds to it. */
function strip({ id, name, version, states, transitions }: Workflow): Workflow {
  return { id, name, version, states, transitions };
}
