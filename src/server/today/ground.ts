import type { Paces } from "@/core/flow/pace";
import { meaningOf, type StateMeaning } from "@/core/workflow/state-meaning";
import type { State } from "@/core/workflow/state";
import type { Workflow } from "@/core/workflow/workflow";
import { and, eq, inArray, ne } from "drizzle-orm";
import type { Reader } from "@/db/connection";
import { membership, project } from "@/db/schema";
import { flowSummary } from "../flow/read";
import { accessibleProjects, type ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { dutyHoldersNamed } from "../people/duties";
import { projectTypes } from "../workflow/load";
import type { FlowSummary } from "@/core/flow/summary";

/** A project as far as somebody's day needs it. */
export interface DayProject {
  access: ProjectAccess;
  workflows: readonly Workflow[];
  types: Awaited<ReturnType<typeof projectTypes>>["types"];
  /** Whether this person is named for tests here, and for releases. */
  tests: boolean;
  releases: boolean;
}

/** The projects that somebody works in, with their processes. */
export async function dayProjects(reader: Reader, viewer: Viewer): Promise<DayProject[]> {
  const member = reader
    .select({ id: membership.projectId })
    .from(membership)
    .where(and(eq(membership.personId, viewer.personId), ne(membership.role, "observer")));
  const worked = await accessibleProjects(reader, viewer, inArray(project.id, member));
  return Promise.all(
    worked.map(async (access) => {
      const [{ types, workflows }, testers, releasers] = await Promise.all([
        projectTypes(reader, access.project.id),
        dutyHoldersNamed(reader, access.project.id, "tests"),
        dutyHoldersNamed(reader, access.project.id, "releases"),
      ]);
      return {
        access,
        types,
        workflows,
        tests: testers.includes(viewer.personId),
        releases: releasers.includes(viewer.personId),
      };
    }),
  );
}

/** The summaries of some projects, which every page of theirs shares, by their ids. */
export async function summariesOf(
  viewer: Viewer,
  projects: readonly DayProject[],
): Promise<Map<string, FlowSummary>> {
  const summaries = await Promise.all(
    projects.map(
      async ({ access }) => [access.project.id, await flowSummary(access, viewer)] as const,
    ),
  );
  return new Map(summaries);
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

export const pacesOf = (summaries: Iterable<FlowSummary>): Paces =>
  Object.assign({}, ...[...summaries].map(({ paces }) => paces)) as Paces;
