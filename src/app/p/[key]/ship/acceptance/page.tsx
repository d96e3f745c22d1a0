import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readAcceptance } from "@/server/ship/acceptance/read-acceptance";
import { AcceptanceScreen } from "@/ui/ship/acceptance/acceptance-screen";

export const metadata: Metadata = { title: "Acceptance" };

export default async function AcceptancePage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  return <AcceptanceScreen initial={await forPage(readAcceptance(viewer, key))} />;
}
