import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readTestQueue } from "@/server/ship/testing/test-queue";
import { TestsScreen } from "@/ui/ship/testing/tests-screen";

export const metadata: Metadata = { title: "Tests" };

export default async function TestsPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  return <TestsScreen initial={await forPage(readTestQueue(viewer, key))} />;
}
