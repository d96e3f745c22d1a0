import type { Card } from "@/core/board/card";
import { stagesOf, type Column } from "@/core/board/column";
import { standsIn } from "@/core/board/columns-by";
import { lanes, type Lane } from "@/core/board/lane";
import { areByPeople } from "@/core/board/lanes-by";
import { tableAsked } from "@/core/item/list/table";
import { valueWords } from "@/core/item/list/value-words";
import { isFiltering } from "@/core/view/filter";
import { shownBy, type Look } from "@/core/view/look";
import {
  PICTURE_COLUMNS,
  PICTURE_GROUPS,
  PICTURE_LANES,
  PICTURE_ROWS,
  type Picture,
} from "@/core/view/picture";
import { readBoard } from "../board/read";
import { enterList } from "../item/list/enter";
import { readLanes } from "../item/list/lanes";
import { readViews } from "./read";
import { readMatching } from "../item/list/matching";
import { readTable } from "../item/list/table";
import type { Viewer } from "../people/viewer";

/** Small pictures of what some looks show to a person. */
export const readPictures = (
  viewer: Viewer,
  projectKey: string,
  { looks }: { looks: readonly Look[] },
  now = Date.now(),
): Promise<Picture[]> =>
  Promise.all(
    looks.map((look) =>
      look.arrangement === "board"
        ? boardPicture(viewer, projectKey, look, now)
        : tablePicture(viewer, projectKey, look, now),
    ),
  );

/** How many items stand in each column, and before the first of them. */
async function boardPicture(
  viewer: Viewer,
  projectKey: string,
  look: Look,
  now: number,
): Promise<Picture> {
  const condition = shownBy(look);
  const [board, matching] = await Promise.all([
    readBoard(viewer, projectKey, look.board, { now }),
    isFiltering(condition)
      ? readMatching(viewer, projectKey, { board: look.board, condition }, now)
      : null,
  ]);
  const ids = matching && new Set(matching.ids);
  const cards = board.cards.filter((card) => ids === null || ids.has(card.id));
  const columns =
    board.board.columnsBy === "state"
      ? stagesOf(board.columns).flatMap((stage) => stage.columns)
      : board.columns;
  const stands = (card: Card, column: Column) => standsIn(board.board, column, card);
  const isBefore = (card: Card) =>
    card.stateKind === "unstarted" && !columns.some((column) => stands(card, column));
  const places = [
    ...(cards.some(isBefore) ? [{ name: "Backlog", working: false, holds: isBefore }] : []),
    ...columns.map((column) => ({
      name: column.stage,
      working: column.part === "working",
      holds: (card: Card) => stands(card, column),
    })),
  ].slice(0, PICTURE_COLUMNS);
  const cut = look.lanes.by.kind === "none" ? [] : await lanesOf(viewer, projectKey, look, cards);
  const rows = cut.length === 0 ? [{ name: "", items: cards }] : cut.slice(0, PICTURE_LANES);
  return {
    kind: "board",
    total: cards.length,
    columns: places.map(({ name, working }) => ({ name, working })),
    lanes: rows.map(({ name, items }) => ({
      name,
      counts: places.map(({ holds }) => items.filter(holds).length),
    })),
  };
}

/** The lanes of some cards. */
async function lanesOf(
  viewer: Viewer,
  projectKey: string,
  { board, lanes: by }: Look,
  cards: readonly Card[],
): Promise<Lane<Card>[]> {
  const [{ vocabulary, zone, members }, told] = await Promise.all([
    readViews(viewer, projectKey),
    readLanes(viewer, projectKey, { board, lanes: by, of: null }),
  ]);
  const team = areByPeople(by) ? by.teamId : null;
  return lanes(cards, {
    lanes: by,
    vocabulary,
    at: { now: Date.now(), zone },
    members: team === null ? null : new Set(members[team] ?? []),
    told,
  });
}

/** The groups of a table, or its first rows with what they are sorted by. */
async function tablePicture(
  viewer: Viewer,
  projectKey: string,
  look: Look,
  now: number,
): Promise<Picture> {
  const asked = { ...tableAsked(look), limit: PICTURE_ROWS };
  const [{ rows, head }, { seen }] = await Promise.all([
    readTable(viewer, projectKey, asked, now),
    enterList(viewer, projectKey, now),
  ]);
  const { vocabulary } = seen.asker;
  const total = head!.total.count;
  if (look.group !== null) {
    const groups = head!.groups.slice(0, PICTURE_GROUPS);
    return { kind: "groups", total, groups: groups.map(({ label, count }) => ({ label, count })) };
  }
  const [sorted] = look.sort;
  const at = sorted ? asked.columns.indexOf(sorted.fact) : -1;
  return {
    kind: "rows",
    total,
    rows: rows.map(({ card, values }) => ({
      key: card.key,
      title: card.title,
      value: at < 0 ? "" : valueWords(sorted.fact, values[at], vocabulary),
    })),
  };
}
