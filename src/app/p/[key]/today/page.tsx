import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readToday } from "@/server/today/read";
import { TodayScreen } from "@/ui/today/today-screen";

export const metadata: Metadata = { title: "Today" };

export default async function TodayPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  return <TodayScreen initial={await forPage(readToday(viewer, key))} />;
}
