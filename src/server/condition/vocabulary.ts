import { eq } from "drizzle-orm";
import type { Vocabulary } from "@/core/condition/vocabulary";
import type { Reader } from "@/db/connection";
import { itemType, membership, person, project, team } from "@/db/schema";
import { loadOwnFields } from "../item/own-fields";
import { loadReleases, loadSprints } from "../plan/timeboxes";
import { loadWorkflows } from "../workflow/load";

/** What a project calls the things that conditions refer to. */
export async function loadVocabulary(reader: Reader, projectId: string): Promise<Vocabulary> {
  const [of] = await reader
    .select({ name: project.name, levelNames: project.levelNames })
    .from(project)
    .where(eq(project.id, projectId));
  const types = await reader
    .select({
      id: itemType.id,
      name: itemType.name,
      workflowId: itemType.workflowId,
      level: itemType.level,
    })
    .from(itemType)
    .where(eq(itemType.projectId, projectId))
    .orderBy(itemType.position, itemType.name);
  const workflows = await loadWorkflows(reader, [...new Set(types.map((t) => t.workflowId))]);
  const people = await reader
    .select({ id: person.id, name: person.name, trades: membership.trades })
    .from(membership)
    .innerJoin(person, eq(person.id, membership.personId))
    .where(eq(membership.projectId, projectId))
    .orderBy(person.name);
  const teams = await reader.select().from(team).orderBy(team.name);
  return {
    types: types.map(({ level: _, ...type }) => type),
    levels: [...new Set(types.map(({ level }) => level))]
      .sort()
      .map((level) => ({ id: String(level), name: of.levelNames[level] })),
    projects: [{ id: projectId, name: of.name }],
    states: [...workflows.values()].flatMap((w) =>
      w.states.map((s) => ({ id: s.id, name: s.name, workflowName: w.name })),
    ),
    people,
    teams,
    sprints: await loadSprints(reader, projectId),
    releases: await loadReleases(reader, projectId),
    own: await loadOwnFields(reader, projectId),
  };
}
