import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readBoard } from "@/server/board/read";
import { BacklogScreen } from "@/ui/plan/backlog-screen";

export const metadata: Metadata = { title: "Plan" };

export default async function PlanPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  return <BacklogScreen initial={await forPage(readBoard(viewer, (await params).key))} />;
}
