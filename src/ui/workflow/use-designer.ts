"use client";
import { useMemo, useState } from "react";
import { v7 as newId } from "uuid";
import { checkWorkflow } from "@/core/workflow/check";
import type { DesignView } from "@/core/workflow/design-view";
import { differences } from "@/core/workflow/difference";
import { takeMine } from "@/core/workflow/merge";
import { addState } from "@/core/workflow/edit";
import type { State, StateKind } from "@/core/workflow/state";
import { usePublishing } from "./use-publishing";
import type { OpenClash } from "./use-clashes";
import { useSteps } from "./use-steps";
import { broughtBack, storedIn, strip, useStoredDraft } from "./use-stored-draft";

export type Selection = { kind: "state"; id: string } | { kind: "transition"; id: string } | null;

/**
 * A session of designing one workflow: every edit is a step that can be undone, the draft is stored
 * by itself shortly after each, and what somebody else stores meanwhile is brought together with
 * it.
 */
export function useDesigner(view: DesignView, workflowId: string) {
  const running = view.workflows.find((w) => w.id === workflowId)!;
  const draftOf = view.drafts.find((d) => d.workflowId === workflowId);
  const { draft, edit, put, undo, redo } = useSteps(workflowId, () => {
    const first = storedIn(view, workflowId)!.definition;
    const left = broughtBack(workflowId, first);
    return left ? { list: [first, left.workflow], at: 1 } : { list: [first], at: 0 };
  });
  const stored = useStoredDraft(view, workflowId, draft, put);
  const { publish, discard, takeVersion } = usePublishing(view.project.key, running, stored, edit);
  const [selection, setSelection] = useState<Selection>(null);
  /**
   * A state right after another one: a wait after work, work after a wait, and after an end another
   * end. Answers its id.
   */
  const addAfter = (state: State) => {
    const id = newId();
    const other: StateKind = state.kind === "working" ? "waiting" : "working";
    const name = other === "waiting" ? "Waiting" : "Working";
    const kind = state.kind === "finished" ? "finished" : other;
    const moveIds: [string, string] = [newId(), newId()];
    edit((w) => addState(w, state.id, { id, name, kind, stage: null, moveIds }));
    setSelection({ kind: "state", id });
    return id;
  };
  const findings = useMemo(() => checkWorkflow(draft, view.around), [draft, view.around]);
  const changes = useMemo(
    () => differences(strip(running), draft, view.around.vocabulary),
    [running, draft, view.around],
  );
  return {
    running,
    draft,
    edit,
    addAfter,
    undo,
    redo,
    selection,
    select: setSelection,
    saving: stored.saving,
    findings,
    changes,
    publish,
    discard: async () => {
      // What is chosen stays chosen as long as it is there.
      const all = [...running.states, ...running.transitions];
      if (!all.some((one) => one.id === selection?.id)) setSelection(null);
      await discard();
    },
    takeVersion,
    clashes: stored.clashes,
    answerClash: ({ clash, mine }: OpenClash, whose: "mine" | "theirs") => {
      if (whose === "mine") edit((now) => takeMine(now, clash, mine));
      stored.answered(clash);
    },
    draftOf: draftOf ? { by: draftOf.by, at: draftOf.at } : null,
  };
}

export type Designer = ReturnType<typeof useDesigner>;
