import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readBoard } from "@/server/board/read";
import { readSummary } from "@/server/flow/summary";
import { BoardScreen } from "@/ui/board/board-screen";

export const metadata: Metadata = { title: "Flow" };

export default async function FlowPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  const [board, summary] = await forPage(Promise.all([readBoard(viewer, key), readSummary(viewer, key)]));
  return <BoardScreen initial={board} initialSummary={summary} />;
}
