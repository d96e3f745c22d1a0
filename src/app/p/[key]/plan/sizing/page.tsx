import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readSizing } from "@/server/plan/sizing";
import { SizingScreen } from "@/ui/plan/sizing-screen";

export const metadata: Metadata = { title: "Sizing" };

export default async function SizingPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  const initial = await forPage(readSizing(viewer, key));
  return <SizingScreen initial={initial} />;
}
