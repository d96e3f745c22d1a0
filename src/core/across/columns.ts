import type { Column } from "@/core/board/column";
import { columnsByKind, proposeColumns } from "@/core/board/propose-columns";
import { capital } from "@/core/formats/capital";
import type { ItemType } from "@/core/item/item-type";
import type { Workflow } from "@/core/workflow/workflow";
import type { AcrossBoardId } from "./boards";

interface AcrossProject {
  key: string;
  name: string;
  workflows: readonly Workflow[];
  types: readonly ItemType[];
  /** What it calls its levels, from the lowest. */
  levelNames: readonly string[];
}

/** The workflows of what stands on its own: those of tasks alone are left out. */
const standing = ({ workflows, types }: AcrossProject): Workflow[] =>
  workflows.filter((workflow) =>
    types.some(({ workflowId, level }) => workflowId === workflow.id && level >= 1),
  );

const column = (id: string, stage: string, position: number): Column => ({
  id,
  stage,
  name: "",
  part: "working",
  position,
  stateIds: [],
});

/** A column for each kind of state in progress, and one for what has finished. */
const byKind = (workflows: readonly Workflow[]): Column[] =>
  columnsByKind(workflows).map((proposed, position) => ({
    ...proposed,
    id: proposed.part,
    position,
  }));

/** States of the same stage and kind share a column, whichever project they are of. */
const byStage = (workflows: readonly Workflow[]): Column[] =>
  proposeColumns(workflows).map((proposed, position) => ({
    ...proposed,
    id: `${proposed.stage} ${proposed.part}`,
    position,
  }));

/** A column for each level that there is, the largest pieces first. */
function byLevel(projects: readonly AcrossProject[]): Column[] {
  const types = projects.flatMap((of) => of.types);
  const levels = [...new Set(types.map(({ level }) => level))].sort((a, b) => b - a);
  return levels.map((level, position) => {
    const names = new Set(projects.map(({ levelNames }) => levelNames[level]));
    const ids = types.filter((type) => type.level === level).map(({ id }) => id);
    return {
      ...column(`level ${level}`, capital([...names].join(" or ")), position),
      typeIds: [...new Set(ids)],
    };
  });
}

/**
 * The columns of a board above the projects.
 * @returns null where they are the values of a field, as people are
 */
export function acrossColumns(
  board: AcrossBoardId,
  projects: readonly AcrossProject[],
): Column[] | null {
  const workflows = projects.flatMap(standing);
  switch (board) {
    case "kinds":
      return byKind(workflows);
    case "stages":
      return byStage(workflows);
    case "projects":
      return projects.map(({ key, name }, position) => ({
        ...column(key, name, position),
        value: key,
      }));
    case "levels":
      return byLevel(projects);
    case "people":
      return null;
  }
}
