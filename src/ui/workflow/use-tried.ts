"use client";
import { useState } from "react";
import { NOTHING_AROUND } from "@/core/condition/facts";
import type { MoveAnswers } from "@/core/item/command";
import { itemContract } from "@/core/item/contract";
import type { ItemSnapshot } from "@/core/item/fields";
import { NEW_ITEM } from "@/core/item/new-item";
import { NOTHING_OUTSIDE } from "@/core/item/outside";
import type { DesignView } from "@/core/workflow/design-view";
import type { StateId } from "@/core/workflow/state";
import { afterTry, tryMoves, type TriedMove } from "@/core/workflow/try-item";
import { statesInOrder, type Workflow } from "@/core/workflow/workflow";
import { ask, problemOf } from "@/ui/kit/request";

/** An item made up for trying, in the first state of a workflow. */
function invented(workflow: Workflow, view: DesignView): ItemSnapshot {
  const [first] = statesInOrder(workflow);
  const now = Date.now();
  return {
    ...NEW_ITEM,
    id: "tried",
    projectId: view.project.id,
    number: 0,
    title: "An item to try",
    typeId: view.around.vocabulary.types.find((t) => t.workflowId === workflow.id)?.id ?? "",
    outside: NOTHING_OUTSIDE,
    stateId: first.id,
    stateKind: first.kind,
    enteredStateAt: now,
    spentMinutes: 0,
    rank: "a0",
    outcome: null,
    firstStartedAt: null,
    deliveredAt: null,
    finishedAt: null,
    clock: [],
    returns: 0,
    blockedSince: null,
    openBlockers: [],
    readySince: null,
    met: [],
    ticks: [],
    approvals: [],
    withdrawnAt: null,
    createdAt: now,
    createdBy: null,
    updatedAt: now,
    version: 1,
  };
}

/**
 * An item, real or made up, that walks through a draft; nothing of it is stored. What a move still
 * asks for is answered at the move, as at a drop on the board.
 */
export function useTried(draft: Workflow, view: DesignView) {
  const { vocabulary } = view.around;
  const [item, setItem] = useState(() => invented(draft, view));
  const [path, setPath] = useState<StateId[]>([]);
  const [openChildren, setOpenChildren] = useState(0);
  const [as, setAs] = useState(() => view.people.find((p) => p.role !== "observer")?.id ?? "");
  const [trouble, setTrouble] = useState("");
  const here = draft.states.find((s) => s.id === item.stateId);
  const person = view.people.find((p) => p.id === as);
  const actor = {
    personId: as,
    role: person?.role === "lead" ? ("lead" as const) : ("member" as const),
    teamIds: person?.teamIds ?? [],
  };
  const context = {
    actor,
    around: {
      ...NOTHING_AROUND,
      level: view.types.find(({ id }) => id === item.typeId)?.level ?? null,
      children: openChildren,
      openChildren,
      everIn: [...path, item.stateId],
    },
    ownFields: vocabulary.own,
    asker: {
      personId: as,
      teamIds: actor.teamIds,
      now: item.updatedAt,
      zone: view.project.zone,
    },
    teamsOf: (id: string) => view.people.find((p) => p.id === id)?.teamIds ?? [],
    vocabulary,
    nameOf: (id: string) => view.people.find((p) => p.id === id)?.name.split(" ")[0] ?? "somebody",
    teamName: (id: string) => vocabulary.teams.find((t) => t.id === id)?.name ?? "a team",
  };
  const movesWith = (answers: MoveAnswers) => (here ? tryMoves(draft, item, answers, context) : []);
  const take = (next: ItemSnapshot) => {
    setItem(next);
    setPath([]);
    setTrouble("");
  };
  return {
    item,
    path,
    here,
    as,
    setAs,
    trouble,
    openChildren,
    setOpenChildren,
    moves: movesWith({}),
    set: (change: Partial<ItemSnapshot>) => setItem((i) => ({ ...i, ...change })),
    restart: () => {
      take(invented(draft, view));
      setOpenChildren(0);
    },
    fetchItem: async (key: string) => {
      try {
        const { item: found } = await ask(itemContract.read, { params: { key } });
        const follows =
          found.projectId === view.project.id && draft.states.some((s) => s.id === found.stateId);
        if (follows) take(found);
        else setTrouble("That item does not follow this workflow.");
      } catch (error) {
        const { sentence, help } = problemOf(error);
        setTrouble(`${sentence} ${help}`);
      }
    },
    /** Makes a move with what was answered, where that is enough. */
    go: (tried: TriedMove, answers: MoveAnswers): void => {
      const move = movesWith(answers).find((m) => m.transition.id === tried.transition.id)!;
      if (!move.possible) return;
      setPath((p) => [...p, item.stateId]);
      setItem(afterTry(draft, item, move, { answers, actorId: as }));
    },
  };
}

export type Tried = ReturnType<typeof useTried>;
