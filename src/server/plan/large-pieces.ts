import { and, asc, eq, gte, isNull, ne, sql } from "drizzle-orm";
import { LARGE_LEVEL, UNIT_LEVEL } from "@/core/item/item-type";
import { NOTHING_UNDER, type PieceProgress } from "@/core/plan/piece-progress";
import type { LargePiece } from "@/core/plan/reach-view";
import type { Reader } from "@/db/connection";
import { item, itemType } from "@/db/schema";
import { isSeen, seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";

/** So deep large pieces stand under each other at most. */
const DEEPEST = 4;

/** What stands under which large piece. */
export interface PieceTree {
  /** An open large piece and those above it, by the id of the lowest; none where it is none. */
  above: (id: string | null) => string[];
}

/**
 * The open large pieces of a project, best first, with how far their stories are. Their figures count
 * what the person may not see; a piece that they may not see itself is left out.
 */
export async function readPieces(
  reader: Reader,
  viewer: Viewer,
  project: { id: string; key: string },
): Promise<{ seen: LargePiece[]; tree: PieceTree }> {
  const pieces = await reader
    .select({
      id: item.id,
      number: item.number,
      title: item.title,
      typeId: item.typeId,
      dueOn: item.dueOn,
      parentId: item.parentId,
      started: sql<boolean>`${item.firstStartedAt} is not null`,
      seen: isSeen(seesItem(reader, viewer)),
    })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(
      and(
        eq(item.projectId, project.id),
        gte(itemType.level, LARGE_LEVEL),
        isNull(item.withdrawnAt),
        ne(item.stateKind, "finished"),
      ),
    )
    .orderBy(asc(item.rank), asc(item.id));
  const progress = await progressOf(
    reader,
    pieces.map(({ id }) => id),
  );
  const parents = new Map(pieces.map(({ id, parentId }) => [id, parentId]));
  return {
    seen: pieces
      .filter(({ seen }) => seen)
      .map(({ id, number, title, typeId, dueOn, started }) => ({
        id,
        key: `${project.key}-${number}`,
        title,
        typeId,
        dueOn,
        started,
        ...(progress.get(id) ?? NOTHING_UNDER),
      })),
    tree: {
      above: (id) => {
        const found: string[] = [];
        let next = id;
        while (next !== null && parents.has(next) && found.length < DEEPEST) {
          found.push(next);
          next = parents.get(next) ?? null;
        }
        return found;
      },
    },
  };
}

/** How far the stories under some pieces are, however deep they stand. */
export async function progressOf(
  reader: Reader,
  pieceIds: readonly string[],
): Promise<Map<string, PieceProgress>> {
  if (pieceIds.length === 0) return new Map();
  const done = sql`i.state_kind = 'finished'`;
  const { rows } = await reader.execute(sql`
    with recursive under (piece, id, depth) as (
      select p.id, p.id, 0 from unnest(${sql.param([...pieceIds])}::uuid[]) as p (id)
      union all
      select u.piece, i.id, u.depth + 1 from under u join ${item} i on i.parent_id = u.id
      where u.depth < ${DEEPEST} and i.withdrawn_at is null
    )
    select u.piece, count(*)::int as items, (count(*) filter (where ${done}))::int as done,
      (count(*) filter (where i.state_kind in ('waiting', 'working')))::int as doing,
      coalesce(sum(i.estimate), 0)::float8 as points,
      coalesce(sum(i.estimate) filter (where ${done}), 0)::float8 as "donePoints",
      (count(*) filter (where i.estimate is null and not (${done})))::int as unsized
    from under u
    join ${item} i on i.id = u.id
    join ${itemType} t on t.project_id = i.project_id and t.id = i.type_id
    where t.level = ${UNIT_LEVEL}
    group by u.piece`);
  return new Map(
    (rows as unknown as (PieceProgress & { piece: string })[]).map(({ piece, ...of }) => [
      piece,
      of,
    ]),
  );
}
