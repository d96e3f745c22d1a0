import type { SQL } from "drizzle-orm";
import type { Column } from "@/core/board/column";
import type { Instant } from "@/core/calendar/instant";
import type { StateId } from "@/core/workflow/state";
import { database, type Reader } from "@/db/connection";
import type { board } from "@/db/schema";
import { groundOf, type Ground } from "../across/ground";
import { enterProject, type ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { projectTypes, type ProjectTypes } from "../workflow/load";
import { seenInScope } from "./cards";
import { loadBoard, statesShownBeside } from "./load";

export interface EnteredBoard extends ProjectTypes {
  reader: Reader;
  access: ProjectAccess;
  project: ProjectAccess["project"];
  ground: Ground;
  board: typeof board.$inferSelect;
  columns: Column[];
  /** States that other boards of the project show. */
  shownElsewhere: StateId[];
  /** What of it the person may see, as a condition on items. */
  scope: SQL | undefined;
}

interface Which {
  viewer: Viewer;
  /** The project's first board of the process where none is named. */
  boardId: string | null;
  now: Instant;
}

/**
 * Lets a person in at a board of a project.
 * @throws Refused when they may not read the project, or there is no such board
 */
export async function enterBoard(projectKey: string, which: Which): Promise<EnteredBoard> {
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, ...which, where, action: "read project" });
  return boardOf(reader, access, which);
}

/** The same where they were let in at the project before. */
export async function boardOf(
  reader: Reader,
  access: ProjectAccess,
  { viewer, boardId, now }: Which,
): Promise<EnteredBoard> {
  const { project } = access;
  const [{ board, columns }, types] = await Promise.all([
    loadBoard(reader, project.id, boardId),
    projectTypes(reader, project.id),
  ]);
  const [scope, shownElsewhere] = await Promise.all([
    seenInScope({ reader, viewer, project, board, now }),
    statesShownBeside(reader, board),
  ]);
  return {
    reader,
    access,
    project,
    ground: groundOf(access),
    board,
    columns,
    ...types,
    shownElsewhere,
    scope,
  };
}
