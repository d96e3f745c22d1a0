"use client";
import { useMemo } from "react";
import type { LaneCut, LanesTold } from "@/core/board/lane";
import { areByPeople } from "@/core/board/lanes-by";
import { unpackedBoard, type PackedBoard } from "@/core/board/packed-board";
import type { Figures } from "@/core/flow/summary";
import type { CardsTold } from "@/core/item/list/card-facts";
import type { MatchingView, TableView } from "@/core/item/list/table";
import type { AskedLook } from "@/core/view/asked-look";
import { AloneContext, useAlone } from "@/ui/board/use-alone";
import { BoardScreen } from "@/ui/board/board-screen";
import type { TimelineView } from "@/core/timeline/view";
import { TimelineScreen } from "@/ui/timeline/timeline-screen";
import { TableScreen } from "@/ui/table/table-screen";
import { useCardsTold } from "./use-cards-told";
import { useLanesTold } from "./use-lanes-told";
import { useLook, type LookHandle } from "./use-look";
import { useMatching } from "./use-matching";

/** What the server said of the items of a board, where that was asked for. */
interface ToldFirst {
  matching: MatchingView | null;
  lanes: LanesTold | null;
  cards: CardsTold | null;
}

/** What came with the page: one of the arrangements. */
export type Arranged =
  | ({ kind: "board"; board: PackedBoard } & ToldFirst)
  | { kind: "table"; table: TableView }
  | { kind: "timeline"; timeline: TimelineView };

/** The items of a project, looked at in one of the ways that there are. */
export function FlowScreen({
  projectKey,
  asked,
  arranged,
  summary,
}: {
  projectKey: string;
  asked: AskedLook;
  arranged: Arranged;
  summary: Figures;
}) {
  const handle = useLook(projectKey, asked);
  if (arranged.kind === "timeline")
    return <TimelineScreen handle={handle} initial={arranged.timeline} asked={asked.look} />;
  return arranged.kind === "table" ? (
    <TableScreen
      handle={handle}
      initial={arranged.table}
      initialSummary={summary}
      asked={asked.look}
    />
  ) : (
    <LookedBoard
      handle={handle}
      asked={asked}
      board={arranged.board}
      first={arranged}
      summary={summary}
    />
  );
}

/** A board of which a look shows what its conditions let through. */
function LookedBoard({
  handle,
  asked,
  board: text,
  first,
  summary,
}: {
  handle: LookHandle;
  asked: AskedLook;
  board: PackedBoard;
  first: ToldFirst;
  summary: Figures;
}) {
  const board = useMemo(() => unpackedBoard(text), [text]);
  const found = useMatching(handle, asked, first.matching);
  const told = useLanesTold(handle, asked, first.lanes);
  const cardsTold = useCardsTold(handle, asked, first.cards);
  const { look, views } = handle;
  const { lanes, children } = look;
  const { vocabulary, zone, members } = views;
  const now = board.now;
  const shown = useMemo(() => {
    const team = areByPeople(lanes) ? lanes.teamId : null;
    const cut: LaneCut = {
      lanes,
      vocabulary,
      at: { now, zone },
      members: team === null ? null : new Set(members[team] ?? []),
      told,
    };
    return { ...found, cut, children, cardsTold };
  }, [found, lanes, children, vocabulary, zone, members, now, told, cardsTold]);
  const alone = useAlone();
  return (
    <AloneContext.Provider value={alone}>
      <BoardScreen initial={board} initialSummary={summary} handle={handle} shown={shown} />
    </AloneContext.Provider>
  );
}
