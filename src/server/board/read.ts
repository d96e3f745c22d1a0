import type { BoardView } from "@/core/board/board-view";
import { columnsAside } from "@/core/board/columns-aside";
import { areValues, valueColumns } from "@/core/board/columns-by";
import type { Instant } from "@/core/calendar/instant";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import type { FactName } from "@/core/condition/facts";
import { readAcrossKey } from "@/core/across/place";
import { database } from "@/db/connection";
import { readAcrossBoard } from "../across/board";
import { newestEventId } from "../events/newest";
import { aroundItems } from "../item/list/around";
import { parentsSeen } from "../item/list/cards";
import { loadOwnFields } from "../item/own-fields";
import { withVisibleOthers } from "../item/visible-others";
import { enterProject } from "../people/access";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { loadReleases, loadSprints } from "../plan/timeboxes";
import { loadPlaces, openCards, processCards } from "./cards";
import { readBesideBoard } from "./board-limits";
import { boardOf } from "./enter";
import { loadBoards } from "./load";

interface ReadOptions {
  now?: Instant;
  /** Which cards of what has finished. */
  finished?: "latest" | "all";
  /** What is added up of it. */
  sum?: FactName | null;
}

/**
 * A board with everything drawn on it; the project's first where none is named. Of what has finished
 * only the latest cards, unless all are asked for.
 */
export async function readBoard(
  viewer: Viewer,
  projectKey: string,
  boardId: string | null = null,
  { now = Date.now(), finished = "latest", sum = null }: ReadOptions = {},
): Promise<BoardView> {
  if (readAcrossKey(projectKey) !== null)
    return readAcrossBoard(viewer, projectKey, boardId, { now, finished, sum });
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, viewer, where, action: "read project" });
  const { project } = access;
  // The number is read first: whatever is announced after it is sent again, and a newer card wins.
  const lastEventId = await newestEventId(reader, project.id);
  const entered = await boardOf(reader, access, { viewer, boardId, now });
  const { board: head, columns: stored, workflows, types } = entered;
  const { columnsBy } = head;
  const [boards, { people, teams }, sprints, releases, ownFields] = await Promise.all([
    loadBoards(reader, project.id),
    roster(reader, project.id),
    loadSprints(reader, project.id),
    loadReleases(reader, project.id),
    loadOwnFields(reader, project.id),
  ]);
  const shown =
    columnsBy === "state"
      ? await processCards({ ...entered, now, sum, ownFields }, finished)
      : { cards: await openCards(entered), finished: [] };
  const cards = await withVisibleOthers(reader, viewer, shown.cards);
  const ids = cards.map((card) => card.id);
  const [around, places, parents, beside] = await Promise.all([
    aroundItems(reader, viewer, entered.ground, ids),
    columnsBy === "free" ? loadPlaces(reader, head.id, ids) : {},
    columnsBy === "parent" ? parentsSeen(reader, viewer, project) : [],
    readBesideBoard({ ...entered, viewer, now }),
  ]);
  return {
    project: { id: project.id, key: project.key, name: project.name, zone: project.zone },
    board: {
      id: head.id,
      name: head.name,
      version: head.version,
      columnsBy,
      scoped: head.scope !== null,
      places,
    },
    boards,
    columns: !areValues(columnsBy)
      ? stored
      : columnsAside(
          valueColumns(
            columnsBy,
            {
              people: people.filter((p) => p.role !== "observer"),
              teams,
              sprints,
              releases,
              parents,
            },
            cards,
          ),
          {
            by: columnsBy,
            cards,
            boxes: { sprints, releases },
            today: isoDate(dayNumber(now, project.zone)),
          },
        ),
    shownElsewhere: entered.shownElsewhere,
    cards,
    finished: shown.finished,
    finishedWhole: columnsBy !== "state" || finished === "all",
    sum,
    around,
    ...beside,
    defaultSize: project.defaultSize,
    seesAll: access.may("override limit"),
    workflows,
    types,
    people,
    membersOf: null,
    teams,
    sprints,
    releases,
    ownFields: ownFields.filter((f) => f.removedAt === null),
    rights: {
      move: access.may("move item"),
      edit: access.may("edit item"),
      overrideLimits: access.may("override limit"),
      design: access.may("edit workflow"),
      intake: access.may("read intake"),
      add: access.may("edit item"),
    },
    lastEventId,
    now,
  };
}
