import { and, eq, inArray, isNull } from "drizzle-orm";
import { v7 as newId } from "uuid";
import type { Instant } from "@/core/calendar/instant";
import type { WalkRequest } from "@/core/walk/contract";
import type { WalkView } from "@/core/walk/walk";
import { transact, type Transaction } from "@/db/connection";
import { board, item, person, walk, walkNote, walkSeen } from "@/db/schema";
import { announce } from "../events/announce";
import { throughDoor } from "../item/door";
import { enterItem } from "../item/enter";
import { enterProject, seesItem, type ProjectAccess } from "../people/access";
import { checkMembers } from "../people/belonging";
import type { Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { readWalks } from "./read";

interface Walking {
  tx: Transaction;
  viewer: Viewer;
  access: ProjectAccess;
  now: Instant;
}

/**
 * Begins a walk of a board, leads it on, notes what is agreed on and what is left, and ends it; tells
 * the walks of the board as they are then.
 */
export async function changeWalk(
  viewer: Viewer,
  projectKey: string,
  request: WalkRequest,
  now: Instant = Date.now(),
): Promise<WalkView> {
  const boardId = await transact(async (tx) => {
    const access = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "comment item",
    });
    const walking = { tx, viewer, access, now };
    const id = await change(walking, request);
    const happening = { kind: "walk changed", data: { walkId: request.id } } as const;
    await announce(tx, access.project.id, happening, now);
    return id;
  });
  return readWalks(viewer, projectKey, boardId, now);
}

/** @returns the board that is walked */
async function change(walking: Walking, request: WalkRequest): Promise<string> {
  if (request.kind === "start") return start(walking, request);
  const { tx, viewer } = walking;
  const row = await lockWalk(walking, request.id);
  switch (request.kind) {
    case "go":
      await goTo(walking, request);
      break;
    case "agree":
      await agree(walking, request);
      break;
    case "later":
      await refuseUnseen(walking, [request.itemId]);
      await note(walking, {
        ...request,
        kind: "later",
        commentId: null,
        ownerId: null,
        dueOn: null,
      });
      break;
    case "take back":
      await takeBack(walking, request);
      break;
    case "lead":
      await tx.update(walk).set({ ledBy: viewer.personId }).where(eq(walk.id, row.id));
      break;
    case "end":
      await tx.update(walk).set({ endedAt: walking.now }).where(eq(walk.id, row.id));
  }
  return row.boardId;
}

/** One board is walked by one company at a time. */
async function start(
  { tx, viewer, access, now }: Walking,
  { id, board: boardId, order, minutes }: Extract<WalkRequest, { kind: "start" }>,
): Promise<string> {
  const [found] = await tx
    .select({ id: board.id, columnsBy: board.columnsBy })
    .from(board)
    .where(and(eq(board.id, boardId), eq(board.projectId, access.project.id)))
    .for("update");
  if (!found) throw notFound("board");
  if (found.columnsBy !== "state")
    throw invalid("Only a board of the process is walked.", "Choose one with its steps.");
  const [running] = await tx
    .select({ id: walk.id, name: person.name })
    .from(walk)
    .innerJoin(person, eq(person.id, walk.ledBy))
    .where(and(eq(walk.boardId, boardId), isNull(walk.endedAt)));
  // The id is made by whoever asks, so asking twice begins one.
  if (running?.id === id) return boardId;
  if (running)
    throw invalid(
      `${running.name} is walking this board already.`,
      "Come along, or take the lead.",
    );
  await tx
    .insert(walk)
    .values({ id, boardId, order, minutes, ledBy: viewer.personId, startedAt: now });
  return boardId;
}

/** A walk of this project that goes on, locked. @throws Refused */
async function lockWalk({ tx, access }: Walking, id: string): Promise<typeof walk.$inferSelect> {
  const [found] = await tx
    .select({ row: walk })
    .from(walk)
    .innerJoin(board, eq(board.id, walk.boardId))
    .where(and(eq(walk.id, id), eq(board.projectId, access.project.id)))
    .for("update", { of: walk });
  if (!found) throw notFound("walk");
  if (found.row.endedAt !== null) throw invalid("This walk is over.", "Begin another one.");
  return found.row;
}

async function goTo(
  walking: Walking,
  { id, itemId, passed }: Extract<WalkRequest, { kind: "go" }>,
): Promise<void> {
  const { tx, viewer, now } = walking;
  const ids = [...new Set([...passed, itemId])];
  await refuseUnseen(walking, ids);
  await tx.update(walk).set({ itemId, ledBy: viewer.personId }).where(eq(walk.id, id));
  await tx
    .insert(walkSeen)
    .values(ids.map((one) => ({ walkId: id, itemId: one, at: now })))
    .onConflictDoNothing();
}

/** What is agreed on is a comment of the item, with who does it and by when. */
async function agree(
  walking: Walking,
  request: Extract<WalkRequest, { kind: "agree" }>,
): Promise<void> {
  const { tx, viewer, access } = walking;
  const { noteId, itemId, text, ownerId } = request;
  // The id is made by whoever asks, so asking twice agrees once.
  const [known] = await tx
    .select({ id: walkNote.id })
    .from(walkNote)
    .where(eq(walkNote.id, noteId));
  if (known) return;
  if (ownerId !== null) await checkMembers(tx, access.project.id, [ownerId]);
  const on = await enterItem(tx, viewer, itemId, "comment item");
  if (on.access.project.id !== access.project.id) throw notFound("item");
  const comment = { kind: "comment", commentId: noteId, body: text } as const;
  const ask = { kind: "prepared", command: comment } as const;
  await throughDoor(tx, viewer, { on, commandId: newId(), ask });
  await note(walking, { ...request, kind: "agreed", text: null, commentId: noteId });
}

async function note(
  { tx, viewer, now }: Walking,
  {
    id,
    noteId,
    ...said
  }: { id: string; noteId: string } & Pick<
    typeof walkNote.$inferInsert,
    "itemId" | "kind" | "text" | "commentId" | "ownerId" | "dueOn"
  >,
): Promise<void> {
  const { itemId, kind, text, commentId, ownerId, dueOn } = said;
  await tx
    .insert(walkNote)
    .values({
      id: noteId,
      walkId: id,
      itemId,
      kind,
      text,
      commentId,
      ownerId,
      dueOn,
      byId: viewer.personId,
      at: now,
    })
    .onConflictDoNothing();
}

/** A note about what this person may not see is none for them. */
async function takeBack(
  { tx, viewer }: Walking,
  { id, noteId }: Extract<WalkRequest, { kind: "take back" }>,
): Promise<void> {
  const [found] = await tx
    .select({ id: walkNote.id })
    .from(walkNote)
    .innerJoin(item, eq(item.id, walkNote.itemId))
    .where(and(eq(walkNote.id, noteId), eq(walkNote.walkId, id), seesItem(tx, viewer)));
  if (found) await tx.delete(walkNote).where(eq(walkNote.id, found.id));
}

/** @throws Refused where one of the items is none of the project that this person may see */
async function refuseUnseen(
  { tx, viewer, access }: Walking,
  itemIds: readonly string[],
): Promise<void> {
  const wanted = [...new Set(itemIds)];
  const rows = await tx
    .select({ id: item.id })
    .from(item)
    .where(
      and(
        inArray(item.id, wanted),
        eq(item.projectId, access.project.id),
        isNull(item.withdrawnAt),
        seesItem(tx, viewer),
      ),
    );
  if (rows.length < wanted.length) throw notFound("item");
}
