import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readPlanning } from "@/server/plan/planning";
import { readHowItPlans } from "@/server/plan/settings";
import { WithoutSprints } from "@/ui/plan/plan-settings";
import { PlanningScreen } from "@/ui/plan/planning-screen";

export const metadata: Metadata = { title: "Planning sprints" };

export default async function PlanningPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  const plans = await forPage(readHowItPlans(viewer, key));
  if (!plans.settings.usesSprints) return <WithoutSprints {...plans} />;
  const initial = await forPage(readPlanning(viewer, key));
  return <PlanningScreen initial={initial} />;
}
