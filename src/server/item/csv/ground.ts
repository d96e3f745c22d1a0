import type { TableGround } from "@/core/item/csv/ground";
import { statesInOrder } from "@/core/workflow/workflow";
import { database, type Reader } from "@/db/connection";
import { enterProject } from "../../people/access";
import { roster } from "../../people/roster";
import type { Viewer } from "../../people/viewer";
import { loadReleases, loadSprints } from "../../plan/timeboxes";
import { projectTypes } from "../../workflow/load";
import { loadOwnFields } from "../own-fields";

/** What names in a table of items can mean in a project. @throws Refused */
export async function readTableGround(viewer: Viewer, projectKey: string): Promise<TableGround> {
  const reader = database();
  const where = { key: projectKey };
  const { project } = await enterProject({ reader, viewer, where, action: "read project" });
  return tableGround(reader, project.id);
}

/** The same for whoever has entered. */
export async function tableGround(reader: Reader, projectId: string): Promise<TableGround> {
  const [{ types, workflows }, { people, teams }, sprints, releases, own] = await Promise.all([
    projectTypes(reader, projectId),
    roster(reader, projectId),
    loadSprints(reader, projectId),
    loadReleases(reader, projectId),
    loadOwnFields(reader, projectId),
  ]);
  const named = ({ id, name }: { id: string; name: string }) => ({ id, name });
  const ofType = (workflowId: string) => workflows.find(({ id }) => id === workflowId)!;
  return {
    types: types.map(named),
    people: people.map(named),
    teams: teams.map(named),
    sprints: sprints.map(named),
    releases: releases.map(named),
    own: own.filter(({ removedAt }) => removedAt === null),
    states: Object.fromEntries(
      types.map(({ id, workflowId }) => [
        id,
        statesInOrder(ofType(workflowId)).map((state) => ({ ...named(state), kind: state.kind })),
      ]),
    ),
  };
}
