import { eq, inArray } from "drizzle-orm";
import type { Workflow } from "@/core/workflow/workflow";
import type { Reader } from "@/db/connection";
import { itemType, state, transition, workflow } from "@/db/schema";

/** Workflows with their states and transitions, by id. */
export async function loadWorkflows(reader: Reader, ids: readonly string[]): Promise<Map<string, Workflow>> {
  if (ids.length === 0) return new Map();
  const wanted = [...ids];
  // One after the other: inside a transaction a connection takes one query at a time.
  const heads = await reader.select().from(workflow).where(inArray(workflow.id, wanted));
  const states = await reader.select().from(state).where(inArray(state.workflowId, wanted)).orderBy(state.position);
  const transitions = await reader.select().from(transition).where(inArray(transition.workflowId, wanted));
  return new Map(
    heads.map(({ id, name, version }) => [
      id,
      {
        id,
        name,
        version,
        states: states.filter((s) => s.workflowId === id).map(({ id, name, kind, stage, position }) => ({ id, name, kind, stage, position })),
        transitions: transitions
          .filter((t) => t.workflowId === id)
          .map((t) => ({ id: t.id, from: t.fromStateId, to: t.toStateId, verb: t.verb, requirements: t.requirements })),
      },
    ]),
  );
}

export interface ProjectTypes {
  types: { id: string; name: string; level: number; workflowId: string }[];
  workflows: Workflow[];
}

/** The item types of a project, each with its workflow. */
export async function projectTypes(reader: Reader, projectId: string): Promise<ProjectTypes> {
  const types = await reader
    .select({ id: itemType.id, name: itemType.name, level: itemType.level, workflowId: itemType.workflowId })
    .from(itemType)
    .where(eq(itemType.projectId, projectId))
    .orderBy(itemType.level, itemType.name);
  const workflows = await loadWorkflows(reader, [...new Set(types.map((t) => t.workflowId))]);
  return { types, workflows: [...workflows.values()] };
}
