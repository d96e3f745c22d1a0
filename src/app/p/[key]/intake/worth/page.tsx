import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readWorth } from "@/server/intake/worth";
import { WorthScreen } from "@/ui/intake/worth-screen";

export const metadata: Metadata = { title: "Worth and urgency" };

export default async function WorthPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  return <WorthScreen initial={await forPage(readWorth(viewer, (await params).key))} />;
}
