import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { USUAL_REACH_WEEKS } from "@/core/plan/reach-view";
import { readBacklog, readBacklogRows } from "@/server/plan/backlog";
import { readReach } from "@/server/plan/reach";
import { BacklogScreen } from "@/ui/plan/backlog-screen";

export const metadata: Metadata = { title: "Plan" };

export default async function PlanPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  const [initial, firstRows, firstReach] = await forPage(
    Promise.all([
      readBacklog(viewer, key),
      readBacklogRows(viewer, key),
      readReach(viewer, key, USUAL_REACH_WEEKS),
    ]),
  );
  return <BacklogScreen initial={initial} firstRows={firstRows} firstReach={firstReach} />;
}
