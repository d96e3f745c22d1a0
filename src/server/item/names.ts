import { eq, inArray } from "drizzle-orm";
import type { Names } from "@/core/item/words";
import type { Reader } from "@/db/connection";
import { itemType, person, release, sprint, state, team, workflow } from "@/db/schema";
import { loadOwnFields } from "./own-fields";

/** Names for the words of histories, by project. */
export async function namesOf(
  reader: Reader,
  projectIds: readonly string[],
): Promise<(projectId: string) => Names> {
  const ids = [...new Set(projectIds)];
  const [states, people, teams, types, sprints, releases, own] = await Promise.all([
    reader
      .select({ id: state.id, name: state.name })
      .from(state)
      .innerJoin(workflow, eq(workflow.id, state.workflowId))
      .where(inArray(workflow.projectId, ids)),
    reader.select({ id: person.id, name: person.name }).from(person),
    reader.select({ id: team.id, name: team.name }).from(team),
    reader.select().from(itemType).where(inArray(itemType.projectId, ids)),
    reader.select({ id: sprint.id, name: sprint.name }).from(sprint),
    reader.select({ id: release.id, name: release.name }).from(release),
    Promise.all(ids.map(async (id) => [id, await loadOwnFields(reader, id)] as const)),
  ]);
  const named = (rows: readonly { id: string; name: string }[], otherwise: string) => {
    const names = new Map(rows.map(({ id, name }) => [id, name]));
    return (id: string) => names.get(id) ?? otherwise;
  };
  const typeNames = new Map(types.map((t) => [`${t.projectId} ${t.id}`, t.name]));
  const ownOf = new Map(own);
  const names = {
    state: named(states, "a former state"),
    person: named(people, "somebody"),
    team: named(teams, "a former team"),
    sprint: named(sprints, "a former sprint"),
    release: named(releases, "a former release"),
  };
  return (projectId) => ({
    ...names,
    type: (id) => typeNames.get(`${projectId} ${id}`) ?? id,
    own: (id) => ownOf.get(projectId)?.find((field) => field.id === id),
  });
}
