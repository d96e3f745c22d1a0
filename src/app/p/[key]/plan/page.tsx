import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readBacklog, readBacklogRows } from "@/server/plan/backlog";
import { BacklogScreen } from "@/ui/plan/backlog-screen";

export const metadata: Metadata = { title: "Plan" };

export default async function PlanPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  const [initial, firstRows] = await forPage(
    Promise.all([readBacklog(viewer, key), readBacklogRows(viewer, key)]),
  );
  return <BacklogScreen initial={initial} firstRows={firstRows} />;
}
