import { and, eq, inArray, isNull } from "drizzle-orm";
import type { ItemType } from "@/core/item/item-type";
import { workflowSchema } from "@/core/workflow/definition";
import type { Workflow } from "@/core/workflow/workflow";
import { pool, type Reader } from "@/db/connection";
import { itemType, workflow, workflowVersion } from "@/db/schema";

/** Workflows in the version that runs now, by id. */
export async function loadWorkflows(
  reader: Reader,
  ids: readonly string[],
): Promise<Map<string, Workflow>> {
  if (ids.length === 0) return new Map();
  const heads = await reader
    .select({ id: workflow.id, version: workflow.version })
    .from(workflow)
    .where(inArray(workflow.id, [...ids]));
  const loaded = new Map<string, Workflow>();
  // One after the other: inside a transaction a connection takes one query at a time.
  for (const { id, version } of heads) loaded.set(id, await publishedWorkflow(reader, id, version));
  return loaded;
}

/**
 * A published version is never changed, so a process reads each of them once. One store for each
 * database.
 */
const published = new WeakMap<object, Map<string, Workflow>>();
const KEPT_VERSIONS = 500;

/**
 * A published version of a workflow. @throws Error when there is none, which means that stored data
 * is broken
 */
export async function publishedWorkflow(
  reader: Reader,
  id: string,
  version: number,
): Promise<Workflow> {
  let store = published.get(pool());
  if (!store) published.set(pool(), (store = new Map()));
  const key = `${version} ${id}`;
  const known = store.get(key);
  if (known) return known;
  const [row] = await reader
    .select({ definition: workflowVersion.definition })
    .from(workflowVersion)
    .where(and(eq(workflowVersion.workflowId, id), eq(workflowVersion.version, version)));
  if (!row) throw new Error(`workflow ${id} has no version ${version}`);
  if (store.size >= KEPT_VERSIONS) store.clear();
  const definition = workflowSchema.parse(row.definition);
  store.set(key, definition);
  return definition;
}

/** The workflows of a project that are there, those that no type follows too. */
export async function loadProjectWorkflows(reader: Reader, projectId: string): Promise<Workflow[]> {
  const ids = (
    await reader
      .select({ id: workflow.id })
      .from(workflow)
      .where(and(eq(workflow.projectId, projectId), isNull(workflow.removedAt)))
      .orderBy(workflow.name)
  ).map((w) => w.id);
  const loaded = await loadWorkflows(reader, ids);
  return ids.map((id) => loaded.get(id)!);
}

export interface ProjectTypes {
  /** Those that were taken out too: items may still have them. */
  types: ItemType[];
  workflows: Workflow[];
}

/** The item types of a project, each with its workflow. */
export const projectTypes = async (reader: Reader, projectId: string): Promise<ProjectTypes> =>
  (await typesOfProjects(reader, [projectId]))(projectId);

/** The same of some projects. */
export async function typesOfProjects(
  reader: Reader,
  projectIds: readonly string[],
): Promise<(projectId: string) => ProjectTypes> {
  const rows = await reader
    .select({
      projectId: itemType.projectId,
      id: itemType.id,
      name: itemType.name,
      level: itemType.level,
      workflowId: itemType.workflowId,
      glyph: itemType.glyph,
      template: itemType.template,
      position: itemType.position,
      removedAt: itemType.removedAt,
    })
    .from(itemType)
    .where(inArray(itemType.projectId, [...projectIds]))
    .orderBy(itemType.position, itemType.name);
  const workflows = await loadWorkflows(reader, [...new Set(rows.map((t) => t.workflowId))]);
  return (projectId) => {
    const types = rows.filter((row) => row.projectId === projectId);
    const followed = [...new Set(types.map((type) => type.workflowId))];
    return {
      types: types.map(({ projectId: _, ...type }) => type),
      workflows: followed.map((id) => workflows.get(id)!),
    };
  };
}
