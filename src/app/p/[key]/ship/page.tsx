import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readProjectCode } from "@/server/ship/read-project-code";
import { ChangesScreen } from "@/ui/ship/changes-screen";

export const metadata: Metadata = { title: "Changes" };

export default async function ChangesPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  return <ChangesScreen initial={await forPage(readProjectCode(viewer, key))} />;
}
