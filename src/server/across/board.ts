import { and } from "drizzle-orm";
import { ACROSS_BOARDS, type AcrossBoardId } from "@/core/across/boards";
import { acrossColumns } from "@/core/across/columns";
import type { BoardView } from "@/core/board/board-view";
import type { Column } from "@/core/board/column";
import { valueColumns, type ColumnsBy } from "@/core/board/columns-by";
import type { Instant } from "@/core/calendar/instant";
import type { FactName } from "@/core/condition/facts";
import { onceEach } from "@/core/item/once-each";
import type { ItemType } from "@/core/item/item-type";
import type { RosterPerson } from "@/core/people/roster";
import type { Workflow } from "@/core/workflow/workflow";
import { database, type Reader } from "@/db/connection";
import { openCards, processCards } from "../board/cards";
import { NOTHING_BESIDE } from "../board/board-limits";
import { newestEventId } from "../events/newest";
import { aroundItems } from "../item/list/around";
import { withVisibleOthers } from "../item/visible-others";
import { seesItem } from "../people/access";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { loadReleases, loadSprints } from "../plan/timeboxes";
import { projectTypes } from "../workflow/load";
import { enterGround, type Ground } from "./ground";

/** A board above the projects, as far as it says which items stand on it. */
interface EnteredAcross {
  reader: Reader;
  ground: Ground;
  board: { id: AcrossBoardId; name: string; columnsBy: ColumnsBy };
  columns: Column[];
  workflows: Workflow[];
  types: ItemType[];
  shownElsewhere: [];
  scope: ReturnType<typeof and>;
}

/** Lets a person in at a board above the projects; the first where none is named. */
export async function enterAcrossBoard(
  viewer: Viewer,
  key: string,
  boardId: string | null,
): Promise<EnteredAcross> {
  const reader = database();
  const ground = await enterGround(reader, viewer, key, "read project");
  const board = ACROSS_BOARDS.find(({ id }) => id === boardId) ?? ACROSS_BOARDS[0];
  const projects = await Promise.all(
    ground.projects.map(async ({ project: { id, key: projectKey, name, levelNames } }) => ({
      key: projectKey,
      name,
      levelNames,
      ...(await projectTypes(reader, id)),
    })),
  );
  return {
    reader,
    ground,
    board: { ...board, id: board.id as AcrossBoardId },
    columns: acrossColumns(board.id as AcrossBoardId, projects) ?? [],
    workflows: projects.flatMap((of) => of.workflows),
    types: projects.flatMap((of) => of.types),
    shownElsewhere: [],
    scope: and(ground.items, seesItem(reader, viewer)),
  };
}

interface ReadOptions {
  now: Instant;
  /** Which cards of what has finished. */
  finished: "latest" | "all";
  /** What is added up of it. */
  sum: FactName | null;
}

/** A board above the projects with everything drawn on it. It has no limits: those are a project's. */
export async function readAcrossBoard(
  viewer: Viewer,
  key: string,
  boardId: string | null,
  { now, finished, sum }: ReadOptions,
): Promise<BoardView> {
  const entered = await enterAcrossBoard(viewer, key, boardId);
  const { reader, ground, board, workflows, types } = entered;
  const ids = ground.projects.map(({ project }) => project.id);
  // The number is read first: whatever is announced after it is sent again, and a newer card wins.
  const lastEventId = await newestEventId(reader, ...ids);
  const byProcess = board.columnsBy === "state";
  const [named, shown] = await Promise.all([
    namedThings(reader, ground),
    byProcess
      ? processCards({ ...entered, now, sum, ownFields: [] }, finished)
      : { cards: await openCards(entered), finished: [] },
  ]);
  const cards = await withVisibleOthers(reader, viewer, shown.cards);
  const around = await aroundItems(
    reader,
    viewer,
    ground,
    cards.map(({ id }) => id),
  );
  const { id, name, columnsBy } = board;
  return {
    project: { id: ground.id, key: ground.key, name: ground.name, zone: ground.zone },
    board: { id, name, version: 1, columnsBy, scoped: true, places: {} },
    boards: ACROSS_BOARDS.map((each) => ({ id: each.id, name: each.name })),
    columns:
      board.id === "people"
        ? valueColumns("assignee", { ...named, parents: [] }, cards)
        : entered.columns,
    shownElsewhere: [],
    cards,
    finished: shown.finished,
    finishedWhole: !byProcess || finished === "all",
    sum,
    around,
    ...NOTHING_BESIDE,
    defaultSize: 1,
    seesAll: true,
    workflows,
    types,
    ...named,
    ownFields: [],
    rights: {
      move: ground.may("move item"),
      edit: ground.may("edit item"),
      overrideLimits: false,
      design: false,
      intake: false,
      add: false,
    },
    lastEventId,
    now,
  };
}

/** The people, teams, sprints and releases of some projects, each once. */
async function namedThings(reader: Reader, { projects }: Ground) {
  const all = await Promise.all(
    projects.map(async ({ project: { id, key } }) => ({
      key,
      ...(await roster(reader, id)),
      sprints: await loadSprints(reader, id),
      releases: await loadReleases(reader, id),
    })),
  );
  const people = new Map<string, RosterPerson>();
  // Whoever works in one of them works here.
  for (const person of all.flatMap((of) => of.people))
    if ((people.get(person.id)?.role ?? "observer") === "observer") people.set(person.id, person);
  const working = ({ role }: RosterPerson) => role !== "observer";
  return {
    membersOf: Object.fromEntries(
      all.map((of) => [of.key, of.people.filter(working).map(({ id }) => id)]),
    ),
    people: [...people.values()].filter(working),
    teams: onceEach(all.flatMap((of) => of.teams)),
    sprints: onceEach(all.flatMap((of) => of.sprints)),
    releases: onceEach(all.flatMap((of) => of.releases)),
  };
}
