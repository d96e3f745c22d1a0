import { eq } from "drizzle-orm";
import { refuse } from "@/core/workflow/refusal";
import { transact } from "@/db/connection";
import { board, boardColumn } from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound, Refused } from "../refused";
import { announceDesign } from "../workflow/announce";
import { checkLimitedScope } from "./boards";
import { setLimit } from "./limits";
import type { ColumnEditRequest } from "@/core/board/request";

/**
 * Changes the limit of a column. Items that are beyond a new maximum stay where they are; the board
 * shows them as over.
 */
export async function editColumn(viewer: Viewer, request: ColumnEditRequest): Promise<void> {
  await transact(async (tx) => {
    const [column] = await tx
      .select()
      .from(boardColumn)
      .where(eq(boardColumn.id, request.columnId))
      .for("update");
    if (!column) throw notFound("column");
    const [head] = await tx.select().from(board).where(eq(board.id, column.boardId)).for("update");
    const { project } = await enterProject({
      reader: tx,
      viewer,
      where: { id: head.projectId },
      action: "edit board",
    });
    if (head.version !== request.seenVersion)
      throw new Refused(
        refuse(
          "conflict",
          "Somebody else has changed this board meanwhile.",
          "Look at it as it is now, then make your change again.",
        ),
      );
    const { min, max, minFirm, maxFirm } = request;
    const owner = { projectId: project.id, kind: "column", id: column.id } as const;
    await setLimit(tx, owner, { min, max, minFirm, maxFirm });
    await checkLimitedScope(tx, head.id);
    await announceDesign(tx, project.id, { kind: "board changed", data: { boardId: head.id } });
  });
}
