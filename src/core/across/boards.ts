import type { ColumnsBy } from "@/core/board/columns-by";

/**
 * The boards of every place above the projects: the same for all of them. What they show is decided
 * by what is comparable between projects: the kind and the stage of states, levels, people.
 */
export const ACROSS_BOARDS: readonly { id: string; name: string; columnsBy: ColumnsBy }[] = [
  { id: "kinds", name: "By kind of state", columnsBy: "state" },
  { id: "stages", name: "By stage", columnsBy: "state" },
  { id: "projects", name: "By project", columnsBy: "project" },
  { id: "levels", name: "By level", columnsBy: "level" },
  { id: "people", name: "By person", columnsBy: "assignee" },
];

export type AcrossBoardId = "kinds" | "stages" | "projects" | "levels" | "people";
