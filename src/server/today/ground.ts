import { meaningOf, type StateMeaning } from "@/core/workflow/state-meaning";
import type { State } from "@/core/workflow/state";
import type { Workflow } from "@/core/workflow/workflow";
import { and, eq, inArray, isNull, ne, or } from "drizzle-orm";
import type { Reader } from "@/db/connection";
import { membership, project, showing } from "@/db/schema";
import { accessibleProjects, type ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { dutiesNamedFor } from "../people/duties";
import { typesOfProjects, type ProjectTypes } from "../workflow/load";

/** A project as far as somebody's day needs it. */
export interface DayProject {
  access: ProjectAccess;
  /** Whether they work in it, and do not merely say whether they accept what is shown to them. */
  works: boolean;
  workflows: readonly Workflow[];
  types: ProjectTypes["types"];
  /** Whether this person is named for tests here, and for releases. */
  tests: boolean;
  releases: boolean;
}

/** The projects that somebody works in, or is shown something of, with their processes. */
export async function dayProjects(reader: Reader, viewer: Viewer): Promise<DayProject[]> {
  const member = reader
    .select({ id: membership.projectId })
    .from(membership)
    .where(and(eq(membership.personId, viewer.personId), ne(membership.role, "observer")));
  const shownTo = reader
    .select({ id: showing.projectId })
    .from(showing)
    .where(and(eq(showing.personId, viewer.personId), isNull(showing.revokedAt)));
  const worked = await accessibleProjects(
    reader,
    viewer,
    or(inArray(project.id, member), inArray(project.id, shownTo)),
  );
  const ids = worked.map((access) => access.project.id);
  const [typesOf, isNamed] = await Promise.all([
    typesOfProjects(reader, ids),
    dutiesNamedFor(reader, viewer.personId, ids),
  ]);
  return worked.map((access) => {
    const { id } = access.project;
    return {
      access,
      works: access.role !== "observer",
      ...typesOf(id),
      tests: isNamed(id, "tests"),
      releases: isNamed(id, "releases"),
    };
  });
}

/** A state with its workflow, and what it means for whoever has to do with an item in it. */
export interface StateOfDay extends StateMeaning {
  state: State;
  workflow: Workflow;
}

/** Every state of some projects by its id. */
export const stateMeanings = (projects: readonly DayProject[]): Map<string, StateOfDay> =>
  new Map(
    projects.flatMap(({ workflows }) =>
      workflows.flatMap((workflow) =>
        workflow.states.map((state) => [
          state.id,
          { state, workflow, ...meaningOf(state, workflow.states) },
        ]),
      ),
    ),
  );
