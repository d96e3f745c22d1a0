import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readViewUses } from "@/server/view/uses";
import { ViewsScreen } from "@/ui/view/views-screen";

export const metadata: Metadata = { title: "Views" };

export default async function ViewsPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  const uses = await forPage(readViewUses(viewer, key));
  return <ViewsScreen projectKey={key} initial={uses} now={uses.now} />;
}
