import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readBoard } from "@/server/board/read";
import { readSummary } from "@/server/flow/summary";
import { BoardScreen } from "@/ui/board/board-screen";

export const metadata: Metadata = { title: "Flow" };

export default async function FlowPage({
  params,
  searchParams,
}: {
  params: Promise<{ key: string }>;
  searchParams: Promise<{ board?: string | string[] }>;
}) {
  const viewer = await pageViewer();
  const { key } = await params;
  const wanted = (await searchParams).board;
  const boardId = typeof wanted === "string" ? wanted : null;
  const [board, summary] = await forPage(
    Promise.all([readBoard(viewer, key, boardId), readSummary(viewer, key)]),
  );
  return <BoardScreen key={board.board.id} initial={board} initialSummary={summary} />;
}
