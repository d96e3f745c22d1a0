import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readPieceTree } from "@/server/plan/pieces";
import { PiecesScreen } from "@/ui/plan/pieces-screen";

export const metadata: Metadata = { title: "Large pieces" };

export default async function PiecesPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  const initial = await forPage(readPieceTree(viewer, key));
  return <PiecesScreen initial={initial} />;
}
