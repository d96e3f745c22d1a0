import { UNIT_LEVEL } from "@/core/item/item-type";
import {
  and,
  asc,
  eq,
  exists,
  inArray,
  isNotNull,
  isNull,
  ne,
  notInArray,
  or,
  sql,
} from "drizzle-orm";
import { asksPromise, asksWhoLooks, changesByItself } from "@/core/condition/condition";
import { rankBetween } from "@/core/item/rank";
import { twinBoard, twinColumn } from "@/core/board/same-name";
import { refuse } from "@/core/workflow/refusal";
import { transact, type Transaction } from "@/db/connection";
import {
  board,
  boardColumn,
  boardPlace,
  columnState,
  project as projects,
  state,
  wipLimit,
  workflow,
  itemType,
} from "@/db/schema";
import { endLimits, settleLimits } from "./limits";
import { removeColumns } from "./remove-columns";
import { showUnshown } from "./show-states";
import { plainChange, savedChange, type DesignChange } from "@/core/workflow/design-change";
import { COLUMNS_BY_WORDS } from "@/core/board/columns-by";
import { seenItem } from "../item/seen-item";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, notFound, Refused } from "../refused";
import { announceDesign } from "../workflow/announce";
import { keepDesignChange } from "../workflow/design-history";
import { loadProjectWorkflows } from "../workflow/load";
import type { BoardRequest } from "@/core/board/request";

type SavedBoard = Extract<BoardRequest, { kind: "save" }>["board"];

const MOST_BOARDS = 40;

/**
 * Changes the boards of a project. Members put items on free boards; everything else is for leads.
 */
export async function editBoards(
  viewer: Viewer,
  projectKey: string,
  request: BoardRequest,
): Promise<void> {
  await transact(async (tx) => {
    const { project } = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: request.kind === "place" ? "rank item" : "edit board",
    });
    const change = await changeOf(tx, project, request);
    if (request.kind === "save")
      await saveBoard(tx, project.id, request.board, request.seenVersion);
    else if (request.kind === "remove") await removeBoard(tx, project.id, request.boardId);
    else if (request.kind === "order boards") {
      for (const [position, boardId] of request.boardIds.entries())
        await tx
          .update(board)
          .set({ position })
          .where(and(eq(board.id, boardId), eq(board.projectId, project.id)));
    } else if (request.kind === "order columns") {
      const head = await lockBoard(tx, project.id, request.boardId);
      for (const [position, columnId] of request.columnIds.entries())
        await tx
          .update(boardColumn)
          .set({ position })
          .where(and(eq(boardColumn.id, columnId), eq(boardColumn.boardId, head.id)));
    } else if (request.kind === "show workflow") {
      const shown = (await loadProjectWorkflows(tx, project.id)).find(
        (w) => w.id === request.workflowId,
      );
      if (!shown) throw notFound("workflow");
      await showUnshown(tx, project.id, shown);
    } else if (request.kind === "default size")
      await tx
        .update(projects)
        .set({ defaultSize: request.size })
        .where(eq(projects.id, project.id));
    else await placeItem(tx, viewer, project.id, request);
    await keepDesignChange(tx, { projectId: project.id, byId: viewer.personId }, change);
    await announceDesign(tx, project.id, {
      kind: "board changed",
      data: { boardId: "boardId" in request ? request.boardId : null },
    });
  });
}

/** What a request changes of the boards, in words; null where that is nothing to be told. */
async function changeOf(
  tx: Transaction,
  { id: projectId, defaultSize }: typeof projects.$inferSelect,
  request: BoardRequest,
): Promise<DesignChange | null> {
  if (request.kind === "default size")
    return savedChange(
      { area: "limits", what: "what items without a size count for" },
      { size: defaultSize },
      { size: request.size },
      { size: "size" },
    );
  if (request.kind !== "save" && request.kind !== "remove") return null;
  const id = request.kind === "save" ? request.board.id : request.boardId;
  const [head] = await tx
    .select()
    .from(board)
    .where(and(eq(board.id, id), eq(board.projectId, projectId)));
  if (request.kind === "remove")
    return head ? plainChange("boards", `took out the board “${head.name}”`) : null;
  const columns = await tx
    .select()
    .from(boardColumn)
    .where(eq(boardColumn.boardId, id))
    .orderBy(boardColumn.position);
  const told = (of: Omit<SavedBoard, "id" | "columns">, shown: readonly ColumnNames[]) => ({
    name: of.name,
    columnsBy: COLUMNS_BY_WORDS[of.columnsBy],
    scope: of.scope === null ? null : JSON.stringify(of.scope),
    columns: shown.map(({ stage, name }) => `${stage} ${name}`.trim()),
  });
  const { board: saved } = request;
  return savedChange(
    { area: "boards", what: `the board “${saved.name}”` },
    head ? told(head, columns) : null,
    told(saved, saved.columns),
    { name: "name", columnsBy: "columns are", scope: "which items it shows", columns: "columns" },
  );
}

type ColumnNames = Pick<SavedBoard["columns"][number], "stage" | "name">;

async function lockBoard(
  tx: Transaction,
  projectId: string,
  boardId: string,
): Promise<typeof board.$inferSelect> {
  const [head] = await tx
    .select()
    .from(board)
    .where(and(eq(board.id, boardId), eq(board.projectId, projectId)))
    .for("update");
  if (!head) throw notFound("board");
  return head;
}

/** The same where it is as somebody saw it. @throws Refused where it has changed since */
export async function lockSeenBoard(
  tx: Transaction,
  projectId: string,
  { id, seenVersion }: { id: string; seenVersion: number },
): Promise<typeof board.$inferSelect> {
  const head = await lockBoard(tx, projectId, id);
  if (head.version === seenVersion) return head;
  throw new Refused(
    refuse(
      "conflict",
      "Somebody else has changed this board meanwhile.",
      "Look at it as it is now, then make your change again.",
    ),
  );
}

async function saveBoard(
  tx: Transaction,
  projectId: string,
  saved: SavedBoard,
  seenVersion: number,
): Promise<void> {
  await checkColumns(tx, projectId, saved);
  await checkName(tx, projectId, saved);
  const values = { name: saved.name, columnsBy: saved.columnsBy, scope: saved.scope };
  if (seenVersion === 0) {
    const [{ n, last }] = await tx
      .select({
        n: sql<number>`count(*)::int`,
        last: sql<number>`coalesce(max(${board.position}), -1)::int`,
      })
      .from(board)
      .where(eq(board.projectId, projectId));
    if (n >= MOST_BOARDS)
      throw invalid(
        `A project has at most ${MOST_BOARDS} boards.`,
        "Take one out that nobody uses.",
      );
    const made = await tx
      .insert(board)
      .values({ ...values, id: saved.id, projectId, position: last + 1 })
      .onConflictDoNothing()
      .returning({ id: board.id });
    if (made.length === 0) throw invalid("There is such a board already.", "Reload the page.");
  } else {
    const head = await lockSeenBoard(tx, projectId, { id: saved.id, seenVersion });
    await tx.update(board).set(values).where(eq(board.id, head.id));
  }
  await storeColumns(tx, saved);
  await settleLimits(tx, projectId, saved.columns);
  await checkLimitedScope(tx, saved.id);
}

/** Two boards of one name are refused, also where they are made at the same moment. */
async function checkName(tx: Transaction, projectId: string, saved: SavedBoard): Promise<void> {
  const boards = await tx
    .select({ id: board.id, name: board.name })
    .from(board)
    .where(eq(board.projectId, projectId))
    .orderBy(board.id)
    .for("update");
  const twin = twinBoard(boards, saved);
  if (twin) throw invalid(`There is a board “${twin.name}” already.`, "Give it another name.");
}

/**
 * States must be the project's, each in one column; what has no columns of its own must have none.
 */
async function checkColumns(
  tx: Transaction,
  projectId: string,
  { columnsBy, columns }: SavedBoard,
): Promise<void> {
  if (columnsBy === "state" || columnsBy === "free") {
    if (columns.length === 0) throw invalid("A board needs a column.", "Add one.");
  } else if (columns.length > 0)
    throw invalid("The columns of this board are the values of its field.", "Leave them out.");
  if (new Set(columns.map((c) => c.id)).size < columns.length)
    throw invalid("Two columns are the same.", "Reload the page.");
  const twin = twinColumn(columns);
  if (twin)
    throw invalid(
      `Two columns are called “${`${twin.stage} ${twin.name}`.trim()}”.`,
      "Give one of them another name.",
    );
  const stateIds = columns.flatMap((c) => c.stateIds);
  if (columnsBy !== "state" && stateIds.length > 0)
    throw invalid("The lists of a free board have no states.", "Leave them out.");
  if (new Set(stateIds).size < stateIds.length)
    throw invalid("A state stands in two columns.", "Take it out of one.");
  const empty = columnsBy === "state" && columns.find((c) => c.stateIds.length === 0);
  if (empty)
    throw invalid(`The column ${empty.stage} shows no state.`, "Give it one, or take it out.");
  if (stateIds.length === 0) return;
  const known = await tx
    .select({ id: state.id })
    .from(state)
    .innerJoin(workflow, eq(workflow.id, state.workflowId))
    .where(
      and(
        eq(workflow.projectId, projectId),
        inArray(state.id, stateIds),
        sql`${state.removedIn} is null`,
      ),
    );
  if (known.length < stateIds.length)
    throw invalid(
      "A column shows a state that the project does not have any more.",
      "Reload the page.",
    );
}

/**
 * A limit is the same for everybody, so what it counts cannot depend on who looks; and it is firm
 * only where items come to count by a command on them.
 */
export async function checkLimitedScope(tx: Transaction, boardId: string): Promise<void> {
  const [head] = await tx.select({ scope: board.scope }).from(board).where(eq(board.id, boardId));
  const looks = head.scope !== null && (asksWhoLooks(head.scope) || asksPromise(head.scope));
  const changes = head.scope !== null && changesByItself(head.scope);
  if (!looks && !changes) return;
  const columns = tx
    .select({ id: boardColumn.id })
    .from(boardColumn)
    .where(eq(boardColumn.boardId, boardId));
  const limits = await tx
    .select()
    .from(wipLimit)
    .where(
      and(
        isNull(wipLimit.validTo),
        or(isNotNull(wipLimit.min), isNotNull(wipLimit.max)),
        or(
          and(eq(wipLimit.ownerKind, "board"), eq(wipLimit.ownerId, boardId)),
          and(eq(wipLimit.ownerKind, "column"), inArray(wipLimit.ownerId, columns)),
        ),
      ),
    );
  if (looks && limits.length > 0)
    throw invalid(
      "This board has limits, and a limit is the same for everybody: its items cannot depend on who looks (me, my teams) or on how promises stand.",
      "Take the limits off, or choose the items otherwise.",
    );
  if (changes && limits.some(({ minFirm, maxFirm }) => minFirm || maxFirm))
    throw invalid(
      "This board chooses its items by what changes by itself (days, the past, other items), so its limits can only be advice.",
      "Make them advice, or choose the items otherwise.",
    );
}

async function storeColumns(tx: Transaction, { id: boardId, columns }: SavedBoard): Promise<void> {
  const ids = columns.map((c) => c.id);
  await tx.delete(columnState).where(eq(columnState.boardId, boardId));
  await removeColumns(
    tx,
    and(
      eq(boardColumn.boardId, boardId),
      ids.length > 0 ? notInArray(boardColumn.id, ids) : undefined,
    ),
  );
  for (const [
    position,
    { id: columnId, stage, name: columnName, part, stateIds },
  ] of columns.entries()) {
    const values = { stage, name: columnName, part, position };
    const stored = await tx
      .insert(boardColumn)
      .values({ ...values, id: columnId, boardId })
      .onConflictDoUpdate({
        target: boardColumn.id,
        set: values,
        setWhere: eq(boardColumn.boardId, boardId),
      })
      .returning({ id: boardColumn.id });
    if (stored.length === 0)
      throw invalid("A column belongs to another board.", "Reload the page.");
    if (stateIds.length > 0)
      await tx
        .insert(columnState)
        .values(stateIds.map((stateId) => ({ boardId, columnId, stateId })));
  }
}

async function removeBoard(tx: Transaction, projectId: string, boardId: string): Promise<void> {
  const head = await lockBoard(tx, projectId, boardId);
  const showsWork = tx
    .select({ one: sql`1` })
    .from(columnState)
    .innerJoin(state, eq(state.id, columnState.stateId))
    .innerJoin(
      itemType,
      and(
        eq(itemType.workflowId, state.workflowId),
        eq(itemType.projectId, projectId),
        eq(itemType.level, UNIT_LEVEL),
      ),
    )
    .where(eq(columnState.boardId, board.id));
  const [other] = await tx
    .select({ id: board.id })
    .from(board)
    .where(
      and(
        eq(board.projectId, projectId),
        ne(board.id, boardId),
        eq(board.columnsBy, "state"),
        exists(showsWork),
      ),
    )
    .limit(1);
  if (!other)
    throw invalid(
      "It is the last board of the process.",
      "Make another one first: its limits and measures are read from it.",
    );
  await tx.delete(columnState).where(eq(columnState.boardId, head.id));
  await removeColumns(tx, eq(boardColumn.boardId, head.id));
  await endLimits(tx, "board", [head.id]);
  await tx.delete(board).where(eq(board.id, head.id));
}

async function placeItem(
  tx: Transaction,
  viewer: Viewer,
  projectId: string,
  { boardId, itemId, columnId, below }: Extract<BoardRequest, { kind: "place" }>,
): Promise<void> {
  const head = await lockBoard(tx, projectId, boardId);
  if (head.columnsBy !== "free")
    throw invalid(
      "Only a free board has places of its own.",
      "Move the item as on every other board.",
    );
  if (!(await seenItem(tx, viewer, projectId, itemId))) throw notFound("item");
  const here = and(eq(boardPlace.boardId, boardId), eq(boardPlace.itemId, itemId));
  if (columnId === null) return void (await tx.delete(boardPlace).where(here));
  const [list] = await tx
    .select({ id: boardColumn.id })
    .from(boardColumn)
    .where(and(eq(boardColumn.id, columnId), eq(boardColumn.boardId, boardId)));
  if (!list) throw notFound("list");
  const others = await tx
    .select({ itemId: boardPlace.itemId, rank: boardPlace.rank })
    .from(boardPlace)
    .where(and(eq(boardPlace.columnId, columnId), ne(boardPlace.itemId, itemId)))
    .orderBy(asc(boardPlace.rank));
  const neighbour = below === null ? null : await seenItem(tx, viewer, projectId, below);
  const at = neighbour === null ? -1 : others.findIndex((o) => o.itemId === neighbour.id);
  const rank = rankBetween(others[at]?.rank ?? null, others[at + 1]?.rank ?? null);
  await tx
    .insert(boardPlace)
    .values({ boardId, itemId, columnId, rank })
    .onConflictDoUpdate({
      target: [boardPlace.boardId, boardPlace.itemId],
      set: { columnId, rank },
    });
}
