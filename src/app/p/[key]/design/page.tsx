import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readDesign } from "@/server/workflow/read";
import { DesignScreen } from "@/ui/workflow/design-screen";

export const metadata: Metadata = { title: "Design" };

export default async function DesignPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  return <DesignScreen initial={await forPage(readDesign(viewer, (await params).key))} />;
}
