import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readDesk } from "@/server/intake/desk";
import { TriageRulesScreen } from "@/ui/intake/triage-rules-screen";

export const metadata: Metadata = { title: "Triage rules" };

export default async function TriageRulesPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const desk = await forPage(readDesk(viewer, (await params).key));
  return (
    <TriageRulesScreen
      projectKey={desk.project.key}
      rules={desk.rules}
      version={desk.rulesVersion}
      mayEdit={desk.maySetRules}
    />
  );
}
