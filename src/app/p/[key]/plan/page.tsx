import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { backlogFilter } from "@/core/plan/backlog-filter";
import { readWholeBacklog } from "@/server/plan/backlog-rows";
import { readReach } from "@/server/plan/reach";
import { BacklogScreen } from "@/ui/plan/backlog-screen";

export const metadata: Metadata = { title: "Plan" };

export default async function PlanPage({
  params,
  searchParams,
}: {
  params: Promise<{ key: string }>;
  searchParams: Promise<{ filter?: string | string[] }>;
}) {
  const viewer = await pageViewer();
  const [{ key }, asked] = await Promise.all([params, searchParams]);
  // What is no filter is as if nothing had been asked.
  const read = backlogFilter.safeParse(asked.filter);
  const filter = read.success ? read.data : undefined;
  const [{ backlog: initial, rows: firstRows }, firstReach] = await forPage(
    Promise.all([readWholeBacklog(viewer, key, filter), readReach(viewer, key, { filter })]),
  );
  return (
    <BacklogScreen
      initial={initial}
      firstRows={firstRows}
      firstReach={firstReach}
      firstFilter={filter}
    />
  );
}
