import { and, asc, desc, eq, inArray, isNull } from "drizzle-orm";
import type { Walk, WalkNote, WalkView } from "@/core/walk/walk";
import type { Instant } from "@/core/calendar/instant";
import { database, type Reader } from "@/db/connection";
import { comment, item, person, walk, walkNote, walkSeen } from "@/db/schema";
import { loadBoard } from "../board/load";
import { enterProject, seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";

/** So many walks that are over are told. */
const PAST_SHOWN = 12;

/** The walks of a board, as far as a person may see what was gone through. */
export async function readWalks(
  viewer: Viewer,
  projectKey: string,
  boardId: string,
  now: Instant = Date.now(),
): Promise<WalkView> {
  const reader = database();
  const { project } = await enterProject({
    reader,
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const { board } = await loadBoard(reader, project.id, boardId);
  const rows = await reader
    .select({ row: walk, name: person.name })
    .from(walk)
    .innerJoin(person, eq(person.id, walk.ledBy))
    .where(eq(walk.boardId, board.id))
    .orderBy(desc(walk.startedAt), desc(walk.id))
    .limit(PAST_SHOWN + 1);
  const ids = rows.map(({ row }) => row.id);
  const [notes, seen] = await Promise.all([
    notesOf(reader, viewer, { key: project.key, walkIds: ids }),
    seenOn(reader, viewer, ids),
  ]);
  const current = new Set(
    await visible(
      reader,
      viewer,
      rows.flatMap(({ row }) => row.itemId ?? []),
    ),
  );
  const walks = rows.map(({ row, name }): Walk => ({
    id: row.id,
    order: row.order,
    minutes: row.minutes,
    ledBy: { id: row.ledBy, name },
    startedAt: row.startedAt,
    endedAt: row.endedAt,
    itemId: row.itemId !== null && current.has(row.itemId) ? row.itemId : null,
    seen: seen.filter(({ walkId }) => walkId === row.id).map(({ itemId }) => itemId),
    notes: notes.filter(({ walkId }) => walkId === row.id).map(({ walkId: _, ...note }) => note),
  }));
  return {
    running: walks.find(({ endedAt }) => endedAt === null) ?? null,
    past: walks.filter(({ endedAt }) => endedAt !== null).slice(0, PAST_SHOWN),
    left: leftOver(walks),
    now,
  };
}

/** What the last walk that is over left for later: the next one takes it up. */
function leftOver(walks: readonly Walk[]): WalkNote[] {
  const last = walks.find(({ endedAt }) => endedAt !== null);
  return last?.notes.filter(({ kind }) => kind === "later") ?? [];
}

async function notesOf(
  reader: Reader,
  viewer: Viewer,
  { key, walkIds }: { key: string; walkIds: readonly string[] },
): Promise<(WalkNote & { walkId: string })[]> {
  const rows = await reader
    .select({
      note: walkNote,
      said: comment.body,
      number: item.number,
      title: item.title,
      owner: person.name,
    })
    .from(walkNote)
    .innerJoin(item, eq(item.id, walkNote.itemId))
    .leftJoin(comment, and(eq(comment.itemId, walkNote.itemId), eq(comment.id, walkNote.commentId)))
    .leftJoin(person, eq(person.id, walkNote.ownerId))
    .where(
      and(
        inArray(walkNote.walkId, [...walkIds]),
        isNull(item.withdrawnAt),
        seesItem(reader, viewer),
      ),
    )
    .orderBy(asc(walkNote.at), asc(walkNote.id));
  return rows.map(({ note, said, number, title, owner }) => ({
    id: note.id,
    walkId: note.walkId,
    kind: note.kind,
    itemId: note.itemId,
    key: `${key}-${number}`,
    title,
    text: said ?? note.text ?? "",
    owner: note.ownerId === null ? null : { id: note.ownerId, name: owner ?? "somebody" },
    dueOn: note.dueOn,
  }));
}

const seenOn = (reader: Reader, viewer: Viewer, walkIds: readonly string[]) =>
  reader
    .select({ walkId: walkSeen.walkId, itemId: walkSeen.itemId })
    .from(walkSeen)
    .innerJoin(item, eq(item.id, walkSeen.itemId))
    .where(and(inArray(walkSeen.walkId, [...walkIds]), seesItem(reader, viewer)))
    .orderBy(asc(walkSeen.at), asc(walkSeen.itemId));

async function visible(reader: Reader, viewer: Viewer, ids: readonly string[]): Promise<string[]> {
  const rows = await reader
    .select({ id: item.id })
    .from(item)
    .where(and(inArray(item.id, [...ids]), seesItem(reader, viewer)));
  return rows.map((row) => row.id);
}
