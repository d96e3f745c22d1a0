"use client";
import { useMemo } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { ProjectSummary } from "@/core/flow/summary";
import type { MatchingView, TableView } from "@/core/item/list/table";
import type { AskedLook } from "@/core/view/asked-look";
import { BoardScreen } from "@/ui/board/board-screen";
import { TableScreen } from "@/ui/table/table-screen";
import { useLook, type LookHandle } from "./use-look";
import { useMatching } from "./use-matching";

/** What came with the page: one of the arrangements. */
export type Arranged =
  | { kind: "board"; board: BoardView; matching: MatchingView | null }
  | { kind: "table"; table: TableView };

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
  summary: ProjectSummary;
}) {
  const handle = useLook(projectKey, asked);
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
      matching={arranged.matching}
      summary={summary}
    />
  );
}

/** A board of which a look shows what its conditions let through. */
function LookedBoard({
  handle,
  asked,
  board,
  matching,
  summary,
}: {
  handle: LookHandle;
  asked: AskedLook;
  board: BoardView;
  matching: MatchingView | null;
  summary: ProjectSummary;
}) {
  const found = useMatching(handle, asked, matching);
  const { lanes, children } = handle.look;
  const shown = useMemo(() => ({ ...found, lanes, children }), [found, lanes, children]);
  return <BoardScreen initial={board} initialSummary={summary} handle={handle} shown={shown} />;
}
