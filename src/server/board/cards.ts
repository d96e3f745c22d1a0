import { and, asc, eq, gte, inArray, isNull, ne, or, type SQL } from "drizzle-orm";
import type { Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import type { Places } from "@/core/board/columns-by";
import {
  FINISHED_CARDS_SENT,
  FINISHED_DAYS_SHOWN,
  type FinishedGroup,
} from "@/core/board/finished";
import { followedWorkflows, uncoveredStates } from "@/core/board/followed";
import { DAY, type Instant } from "@/core/calendar/instant";
import { factsIn, type Condition } from "@/core/condition/condition";
import type { FactName } from "@/core/condition/facts";
import type { ItemType } from "@/core/item/item-type";
import type { OwnField } from "@/core/item/own-field";
import type { StateId } from "@/core/workflow/state";
import type { Workflow } from "@/core/workflow/workflow";
import type { Reader } from "@/db/connection";
import { boardPlace, item } from "@/db/schema";
import type { Ground } from "../across/ground";
import { viewerAsker } from "../condition/asker";
import { compileCondition } from "../condition/compile";
import { cardsWhere } from "../item/list/cards";
import { latestFinished, readFinishedGroups } from "../item/list/finished";
import { knowingPromises } from "../intake/promise-asker";
import { seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";

interface BoardProject {
  id: string;
  key: string;
  zone: string;
}

/** What a person may see of what a board is about, as a condition on items. */
export async function seenInScope({
  reader,
  viewer,
  project,
  board,
  now,
}: {
  reader: Reader;
  viewer: Viewer;
  project: BoardProject;
  board: { scope: Condition | null };
  now: Instant;
}): Promise<SQL | undefined> {
  const seen = seesItem(reader, viewer);
  if (board.scope === null) return seen;
  const looking = await viewerAsker(reader, viewer, project, now);
  const asker = await knowingPromises(looking, [project], factsIn(board.scope));
  return and(seen, compileCondition(board.scope, asker));
}

/** A board of the process, as far as it says which items stand on it. */
interface Drawn {
  reader: Reader;
  ground: Pick<Ground, "keyOf" | "items" | "zone">;
  columns: readonly Column[];
  workflows: readonly Workflow[];
  shownElsewhere: readonly StateId[];
  types: readonly ItemType[];
  scope: SQL | undefined;
  now: Instant;
}

export interface OfProcess extends Drawn {
  /** What is added up of what has finished. */
  sum: FactName | null;
  ownFields: readonly OwnField[];
}

/**
 * The states a board of the process draws: its columns', the backlogs before them, and those in
 * between that no column shows.
 */
function drawnStates(of: Drawn): StateId[] {
  const shown = of.columns.flatMap((c) => c.stateIds);
  const backlogs = followedWorkflows(of).flatMap((w) =>
    w.states.filter((s) => s.kind === "unstarted"),
  );
  const others = [...backlogs, ...uncoveredStates(of)].map((s) => s.id);
  return [...new Set([...shown, ...others])];
}

/** What stands on a board of the process and has finished lately. */
const finishedIn = (of: Drawn): SQL | undefined =>
  and(
    inArray(item.stateId, drawnStates(of)),
    eq(item.stateKind, "finished"),
    isNull(item.withdrawnAt),
    gte(item.enteredStateAt, of.now - FINISHED_DAYS_SHOWN * DAY),
    of.scope,
  );

const openIn = (of: Drawn): SQL | undefined =>
  and(
    inArray(item.stateId, drawnStates(of)),
    ne(item.stateKind, "finished"),
    isNull(item.withdrawnAt),
    of.scope,
  );

/**
 * The cards of a board of the process: what is open, and of what has finished the latest, or all of
 * it; and how much has finished.
 */
export async function processCards(
  of: OfProcess,
  finishedToo: "latest" | "all",
): Promise<{ cards: Card[]; finished: FinishedGroup[] }> {
  const { reader, ground } = of;
  const [finished, cards] = await Promise.all([
    finishedOf(of),
    finishedToo === "all"
      ? cardsWhere(reader, ground, or(openIn(of), finishedIn(of)))
      : openAndLatest(of),
  ]);
  return { cards, finished };
}

async function openAndLatest(of: OfProcess): Promise<Card[]> {
  const { reader, ground } = of;
  const latest = await latestFinished(reader, finishedIn(of), {
    stateIds: drawnStates(of),
    most: FINISHED_CARDS_SENT,
  });
  return cardsWhere(reader, ground, or(openIn(of), inArray(item.id, latest)));
}

/** How much has finished lately, by what a board tells apart. */
export const finishedOf = (of: OfProcess): Promise<FinishedGroup[]> => {
  const { reader, ground, now, sum, ownFields } = of;
  return readFinishedGroups(reader, finishedIn(of), { zone: ground.zone, now, sum, ownFields });
};

/** The cards of those of some items that stand on a board of the process. */
export const processCardsOf = (of: Drawn, ids: readonly string[]): Promise<Card[]> =>
  cardsWhere(of.reader, of.ground, and(inArray(item.id, [...ids]), or(openIn(of), finishedIn(of))));

/** The cards of everything that has finished lately and stands on a board of the process. */
export const finishedCards = (of: Drawn): Promise<Card[]> =>
  cardsWhere(of.reader, of.ground, finishedIn(of));

/** The cards of everything that is not finished, or of those of some items. */
export const openCards = (
  { reader, ground, scope }: Pick<Drawn, "reader" | "ground" | "scope">,
  ids?: readonly string[],
): Promise<Card[]> =>
  cardsWhere(
    reader,
    ground,
    and(
      ground.items,
      isNull(item.withdrawnAt),
      ne(item.stateKind, "finished"),
      ids === undefined ? undefined : inArray(item.id, [...ids]),
      scope,
    ),
  );

/**
 * Where items were put on a board whose columns are free.
 * @param ids those that a person sees there; nothing is told of others
 */
export async function loadPlaces(
  reader: Reader,
  boardId: string,
  ids: readonly string[],
): Promise<Places> {
  const seen = new Set(ids);
  const rows = await reader
    .select({ itemId: boardPlace.itemId, columnId: boardPlace.columnId, rank: boardPlace.rank })
    .from(boardPlace)
    .where(eq(boardPlace.boardId, boardId))
    .orderBy(asc(boardPlace.rank));
  return Object.fromEntries(
    rows.filter(({ itemId }) => seen.has(itemId)).map(({ itemId, ...place }) => [itemId, place]),
  );
}
