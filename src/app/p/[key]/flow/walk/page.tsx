import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readBoard } from "@/server/board/read";
import { readSummary } from "@/server/flow/summary";
import { readWalks } from "@/server/walk/read";
import { WalkScreen } from "@/ui/walk/walk-screen";

export const metadata: Metadata = { title: "Walk" };

export default async function WalkPage({
  params,
  searchParams,
}: {
  params: Promise<{ key: string }>;
  searchParams: Promise<{ board?: string }>;
}) {
  const viewer = await pageViewer();
  const { key } = await params;
  const { board: asked = null } = await searchParams;
  const board = await forPage(readBoard(viewer, key, asked));
  const [walks, figures] = await forPage(
    Promise.all([readWalks(viewer, key, board.board.id), readSummary(viewer, key)]),
  );
  return <WalkScreen key={board.board.id} board={board} walks={walks} figures={figures} />;
}
