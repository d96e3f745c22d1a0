import type { Paces } from "@/core/flow/pace";
import { isOfTest } from "@/core/workflow/test-stage";
import type { State } from "@/core/workflow/state";
import type { Workflow } from "@/core/workflow/workflow";
import type { Reader } from "@/db/connection";
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
  summary: FlowSummary;
  /** Whether this person is named for tests here. */
  tests: boolean;
}

/** The projects that somebody works in, with their processes and paces. */
export async function dayProjects(reader: Reader, viewer: Viewer): Promise<DayProject[]> {
  const all = await accessibleProjects(reader, viewer);
  const worked = all.filter(({ role }) => role !== "observer");
  return Promise.all(
    worked.map(async (access) => {
      const [{ types, workflows }, summary, testers] = await Promise.all([
        projectTypes(reader, access.project.id),
        flowSummary(access, viewer),
        dutyHoldersNamed(reader, access.project.id, "tests"),
      ]);
      return { access, types, workflows, summary, tests: testers.includes(viewer.personId) };
    }),
  );
}

/** What a state means for whoever has to do with an item in it. */
export interface StateMeaning {
  state: State;
  workflow: Workflow;
  ofReview: boolean;
  ofTest: boolean;
}

/** Every state of some projects by its id. */
export function stateMeanings(projects: readonly DayProject[]): Map<string, StateMeaning> {
  const meanings = new Map<string, StateMeaning>();
  for (const { workflows } of projects)
    for (const workflow of workflows)
      for (const state of workflow.states) {
        const reviewed = workflow.states.some(
          ({ byReviewer, stage }) => byReviewer && stage !== null && stage === state.stage,
        );
        const running = state.kind === "waiting" || state.kind === "working";
        meanings.set(state.id, {
          state,
          workflow,
          ofReview: running && (state.byReviewer || reviewed),
          ofTest: running && isOfTest(state),
        });
      }
  return meanings;
}

export const pacesOf = (projects: readonly DayProject[]): Paces =>
  Object.assign({}, ...projects.map(({ summary }) => summary.paces)) as Paces;
