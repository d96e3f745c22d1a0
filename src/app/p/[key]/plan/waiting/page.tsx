import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readWaiting } from "@/server/plan/waiting";
import { WaitingScreen } from "@/ui/plan/waiting-screen";

export const metadata: Metadata = { title: "What waits for what" };

export default async function WaitingPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  const initial = await forPage(readWaiting(viewer, key));
  return <WaitingScreen initial={initial} />;
}
