import { and, count, desc, eq, gte, inArray, isNull, max, or, sql, type SQL } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import type { Condition } from "@/core/condition/condition";
import { PLAIN_LIST } from "@/core/item/list/query";
import { nearlyAlike } from "@/core/view/alike";
import { PLAIN_LOOK, shownBy, storedLook, type Look } from "@/core/view/look";
import type { ViewUse, ViewUses } from "@/core/view/view";
import { database, type Reader } from "@/db/connection";
import { columnState, item, person, view, viewUse } from "@/db/schema";
import { loadBoards } from "../board/load";
import { onlyProject } from "../across/ground";
import { enterList, narrowed, type EnteredList } from "../item/list/enter";
import { readGroups, readListPage, readRows } from "../item/list/read";
import { notAllowed } from "../refused";
import type { Viewer } from "../people/viewer";
import { loadNamedConditions } from "./read";

const MONTH = 30 * DAY;
const MOST_KEYS = 100;

/** How the views that are shared in a project are used, and what none of them shows. */
export async function readViewUses(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<ViewUses> {
  const entered = await enterList(viewer, projectKey, now);
  const { ground, seen } = entered;
  const { project, may } = onlyProject(ground);
  if (!may("edit board")) throw notAllowed("looking after the views of the project");
  const { reader } = seen;
  const used = reader
    .select({
      viewId: viewUse.viewId,
      openedAt: max(viewUse.openedAt).as("last_opened"),
      people: count().as("people"),
    })
    .from(viewUse)
    .where(gte(viewUse.openedAt, now - MONTH))
    .groupBy(viewUse.viewId)
    .as("used");
  const opened = reader
    .select({ viewId: viewUse.viewId, openedAt: max(viewUse.openedAt).as("ever_opened") })
    .from(viewUse)
    .groupBy(viewUse.viewId)
    .as("opened");
  const rows = await reader
    .select({
      row: view,
      owner: person.name,
      openedAt: opened.openedAt,
      people: used.people,
    })
    .from(view)
    .leftJoin(person, eq(person.id, view.ownerId))
    .leftJoin(used, eq(used.viewId, view.id))
    .leftJoin(opened, eq(opened.viewId, view.id))
    .where(and(eq(view.groundId, project.id), or(isNull(view.ownerId), eq(view.shown, true))))
    .orderBy(sql`${view.place} asc nulls last`, desc(opened.openedAt), view.name, view.id);
  const [named, boards] = await Promise.all([
    loadNamedConditions(reader, project.id),
    loadBoards(reader, project.id),
  ]);
  const names = { vocabulary: seen.asker.vocabulary, boards, named };
  const looks = rows.map(({ row }) => ({ ...row, look: storedLook(row.look) }));
  const inUse = looks.filter((row) => row.putAwayAt === null);
  const likeOf = (one: (typeof looks)[number]): ViewUse["like"] => {
    for (const other of inUse) {
      const how = other.id === one.id ? null : nearlyAlike(other.look, one.look, names);
      if (how) return { id: other.id, name: other.name, how };
    }
    return null;
  };
  return {
    uses: rows.map(({ row, owner, openedAt, people }, i) => ({
      id: row.id,
      name: row.name,
      owner,
      place: row.place,
      openedAt,
      people: people ?? 0,
      like: row.putAwayAt === null ? likeOf(looks[i]) : null,
      awayAt: row.putAwayAt,
    })),
    unseen: await unseenItems(
      entered,
      [...inUse.map(({ look }) => look), ...boards.map(asLook)],
      boards,
    ),
    now,
  };
}

type Board = Awaited<ReturnType<typeof loadBoards>>[number];

/** A board by itself is looked at too. */
const asLook = ({ id }: Board): Look => ({ ...PLAIN_LOOK, board: id });

/** What stands on a board of the process, or in the backlog beside it. */
const inColumns = (reader: Reader, boardId: string): SQL =>
  or(
    eq(item.stateKind, "unstarted"),
    inArray(
      item.stateId,
      reader
        .select({ id: columnState.stateId })
        .from(columnState)
        .where(eq(columnState.boardId, boardId)),
    ),
  )!;

/** Items that are not finished and that no look shows. */
async function unseenItems(
  entered: EnteredList,
  looks: readonly Look[],
  boards: readonly Board[],
): Promise<ViewUses["unseen"]> {
  const { reader } = entered.seen;
  const first = boards.find((board) => board.columnsBy === "state");
  const drawn = async (look: Look): Promise<SQL | undefined> => {
    const board = boards.find(({ id }) => id === look.board) ?? (look.board ? undefined : first);
    const { where } = await narrowed(entered, shownBy(look), { board: board?.id ?? null });
    return look.arrangement === "board" && board?.columnsBy === "state"
      ? and(where, inColumns(reader, board.id))
      : where;
  };
  const open: Condition = {
    kind: "compare",
    fact: "stateKind",
    op: "is not",
    value: "finished",
  };
  const all = await narrowed(entered, open, { board: null });
  const shown = await Promise.all(looks.map(drawn));
  const where = and(all.where, ...shown.map((of) => sql`not (${of ?? sql`true`})`));
  const of = { ...all, where };
  const [[whole], page] = await Promise.all([
    readGroups(of, PLAIN_LIST),
    readListPage(of, PLAIN_LIST, { after: null, limit: MOST_KEYS }),
  ]);
  const some = await readRows(reader, page);
  return {
    count: whole.count,
    keys: some.map(({ number, projectId }) => `${entered.ground.keyOf(projectId)}-${number}`),
  };
}

/** Notes that somebody opened a view; once an hour is enough. */
export async function noteOpened(viewer: Viewer, viewId: string, now = Date.now()): Promise<void> {
  await database()
    .insert(viewUse)
    .values({ viewId, personId: viewer.personId, openedAt: now })
    .onConflictDoUpdate({
      target: [viewUse.viewId, viewUse.personId],
      set: { openedAt: now },
      setWhere: sql`${viewUse.openedAt} is null or ${viewUse.openedAt} < ${sql.param(now - 3_600_000, viewUse.openedAt)}`,
    });
}
