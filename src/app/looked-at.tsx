import { forPage, pageViewer } from "@/app/page-access";
import { asksForCards } from "@/core/board/card-look";
import { asksForLanes, groupsSay } from "@/core/board/lane";
import { packedBoard } from "@/core/board/packed-board";
import type { Figures } from "@/core/flow/summary";
import { tableAsked } from "@/core/item/list/table";
import type { Search } from "@/core/view/address";
import { isFiltering } from "@/core/view/filter";
import { shownBy, type Look } from "@/core/view/look";
import { timelineAsked } from "@/core/timeline/contract";
import { readTimeline } from "@/server/timeline/read";
import { readBoard } from "@/server/board/read";
import { readCardFacts } from "@/server/item/list/card-facts";
import { readLanes } from "@/server/item/list/lanes";
import { readMatching } from "@/server/item/list/matching";
import { readTable } from "@/server/item/list/table";
import type { Viewer } from "@/server/people/viewer";
import { readAskedLook } from "@/server/view/asked-look";
import { FlowScreen, type Arranged } from "@/ui/view/flow-screen";

export type SearchParams = Promise<Record<string, string | string[] | undefined>>;

/** What an arrangement draws first. */
async function arrange(viewer: Viewer, key: string, look: Look): Promise<Arranged> {
  if (look.arrangement === "table")
    return { kind: "table", table: await readTable(viewer, key, tableAsked(look)) };
  if (look.arrangement === "timeline")
    return { kind: "timeline", timeline: await readTimeline(viewer, key, timelineAsked(look)) };
  const condition = shownBy(look);
  const narrows = isFiltering(condition);
  const { lanes: by, cards: said, sum, board: boardId } = look;
  // What is filtered, or in lanes that groups do not tell apart, is told apart card by card.
  const finished = narrows || !groupsSay(by) ? "all" : "latest";
  const [board, matching, lanes, cards] = await Promise.all([
    readBoard(viewer, key, boardId, { finished, sum }),
    narrows ? readMatching(viewer, key, { board: boardId, condition }) : null,
    asksForLanes(by) ? readLanes(viewer, key, { board: boardId, lanes: by, of: null }) : null,
    asksForCards(said)
      ? readCardFacts(viewer, key, { board: boardId, cards: said, of: null })
      : null,
  ]);
  return { kind: "board", board: packedBoard(board), matching, lanes, cards };
}

/** The items of a project, or of a place above the projects, as an address asks to look at them. */
export async function LookedAt({
  placeKey,
  searchParams,
  figures,
}: {
  placeKey: string;
  searchParams: SearchParams;
  /** What they are drawn with. */
  figures: (viewer: Viewer) => Promise<Figures>;
}) {
  const viewer = await pageViewer();
  const told = Object.entries(await searchParams);
  // What stands in an address twice says nothing.
  const search: Search = Object.fromEntries(
    told.flatMap(([name, value]) => (typeof value === "string" ? [[name, value]] : [])),
  );
  const [asked, summary] = await forPage(
    Promise.all([readAskedLook(viewer, placeKey, search), figures(viewer)]),
  );
  const arranged = await forPage(arrange(viewer, placeKey, asked.look));
  // What is open beside it is no other look.
  const { item: _, ...looked } = search;
  return (
    <FlowScreen
      key={JSON.stringify(looked)}
      projectKey={placeKey}
      asked={asked}
      arranged={arranged}
      summary={summary}
    />
  );
}
