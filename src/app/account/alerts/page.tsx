import type { Metadata } from "next";
import { pageViewer } from "@/app/page-access";
import { readAlertRules } from "@/server/alerts/rules";
import { AlertRulesScreen } from "@/ui/alerts/alert-rules-screen";

export const metadata: Metadata = { title: "How I hear" };
export const dynamic = "force-dynamic";

export default async function AlertRulesPage() {
  const viewer = await pageViewer();
  return <AlertRulesScreen initial={await readAlertRules(viewer)} />;
}
