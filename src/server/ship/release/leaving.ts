import { v7 as newId } from "uuid";
import { grouped } from "@/core/item/grouped";
import type { BulkDoing } from "@/core/item/bulk/act";
import type { MoveAnswers } from "@/core/item/command";
import type { StateId } from "@/core/workflow/state";
import type { Workflow } from "@/core/workflow/workflow";
import type { Transaction } from "@/db/connection";
import { storeJob } from "../../item/bulk/start";
import { loadProjectWorkflows } from "../../workflow/load";

/** What becomes of some items of a release, as a job. */
export interface Leaving {
  ids: string[];
  doing: BulkDoing;
}

/** An item, and where it stands. */
interface Standing {
  id: string;
  stateId: StateId;
}

/** They are in another release from then on, or in none. */
export const leavingFor = (releaseId: string | null, items: readonly Standing[] = []): Leaving => ({
  ids: items.map(({ id }) => id),
  doing: { kind: "set", changes: { releaseId }, own: {} },
});

/** Moves of items of a project, by where they lead; where none leads an item stays. */
export async function leavingBy(
  tx: Transaction,
  projectId: string,
  items: readonly Standing[],
  move: { leadsTo: (workflow: Workflow, from: StateId) => StateId | null; answers: MoveAnswers },
): Promise<Leaving[]> {
  if (items.length === 0) return [];
  const workflows = await loadProjectWorkflows(tx, projectId);
  const to = (stateId: StateId): StateId => {
    const own = workflows.find(({ states }) => states.some(({ id }) => id === stateId));
    return (own && move.leadsTo(own, stateId)) ?? "";
  };
  const byPlace = grouped(items, ({ stateId }) => to(stateId));
  byPlace.delete("");
  return [...byPlace].map(([place, all]) => ({
    ids: all.map(({ id }) => id),
    doing: { kind: "move", to: place, answers: move.answers },
  }));
}

/** Stores the jobs that anything is in. @returns how many items they are about */
export async function storeLeaving(
  tx: Transaction,
  jobs: readonly Leaving[],
  made: { projectId: string; personId: string; madeAt: number },
): Promise<number> {
  const some = jobs.filter(({ ids }) => ids.length > 0);
  for (const { ids, doing } of some) await storeJob(tx, { id: newId(), ...made, doing }, ids);
  return some.reduce((sum, { ids }) => sum + ids.length, 0);
}
