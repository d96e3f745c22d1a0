import type { Card } from "@/core/board/card";
import { database } from "@/db/connection";
import { withVisibleParents } from "../item/visible-parent";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { projectTypes } from "../workflow/load";
import { finishedCards, seenInScope } from "./cards";
import { loadBoard } from "./read";

/** The cards of everything finished that stands on a board; of a board by other things, none. */
export async function readFinished(
  viewer: Viewer,
  projectKey: string,
  boardId: string,
  now = Date.now(),
): Promise<{ cards: Card[] }> {
  const reader = database();
  const { project } = await enterProject({
    reader,
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const { board, columns } = await loadBoard(reader, project.id, boardId);
  if (board.columnsBy !== "state") return { cards: [] };
  const { workflows } = await projectTypes(reader, project.id);
  const scope = await seenInScope({ reader, viewer, project, board, now });
  const cards = await finishedCards({ reader, project, columns, workflows, scope, now });
  return { cards: await withVisibleParents(reader, viewer, cards) };
}
