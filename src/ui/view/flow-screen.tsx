"use client";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { ProjectSummary } from "@/core/flow/summary";
import { listContract } from "@/core/item/list/contract";
import type { MatchingView, TableView } from "@/core/item/list/table";
import type { AskedLook } from "@/core/view/asked-look";
import { isFiltering } from "@/core/view/filter";
import { shownBy } from "@/core/view/look";
import { BoardScreen } from "@/ui/board/board-screen";
import type { Shown } from "@/ui/board/use-board-parts";
import { queryOf } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";
import type { LiveMessage } from "@/ui/kit/use-live";
import { TableScreen } from "@/ui/table/table-screen";
import { useLook, type LookHandle } from "./use-look";

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
  const { lanes } = handle.look;
  const shown = useMemo(() => ({ ...found, lanes }), [found, lanes]);
  return <BoardScreen initial={board} initialSummary={summary} handle={handle} shown={shown} />;
}

const ofItems = ({ kind }: LiveMessage) => kind === "item" || kind === "resync";

/** The items that a look lets through, read again as they change; null where it lets all through. */
function useMatching(
  { projectKey, look }: LookHandle,
  asked: AskedLook,
  initial: MatchingView | null,
): Pick<Shown, "matching" | "waiting"> {
  const narrows = isFiltering(shownBy(look));
  const body = { board: look.board, condition: shownBy(look) };
  const first =
    JSON.stringify(body) === JSON.stringify({ ...body, condition: shownBy(asked.look) });
  const { data, refetch, isPlaceholderData } = useQuery({
    ...queryOf(listContract.matching, { params: { key: projectKey }, body }),
    enabled: narrows,
    initialData: first ? (initial ?? undefined) : undefined,
    placeholderData: (before) => before,
  });
  useReadAgain(ofItems, () => narrows && refetch());
  const waiting = narrows && (isPlaceholderData || data === undefined);
  return useMemo(
    () => ({ matching: narrows && data ? new Set(data.ids) : null, waiting }),
    [narrows, data, waiting],
  );
}
