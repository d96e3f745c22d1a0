import type { ReactNode } from "react";
import { forPage, pageViewer } from "@/app/page-access";
import { readPlanPlaces } from "@/server/plan/settings";
import { PlanNav } from "@/ui/plan/plan-nav";

export default async function PlanLayout({
  children,
  params,
}: {
  children: ReactNode;
  params: Promise<{ key: string }>;
}) {
  const viewer = await pageViewer();
  const { key } = await params;
  const has = await forPage(readPlanPlaces(viewer, key));
  return (
    <div className="flex h-full flex-col">
      <PlanNav projectKey={key} has={has} />
      <div className="min-h-0 flex-1">{children}</div>
    </div>
  );
}
