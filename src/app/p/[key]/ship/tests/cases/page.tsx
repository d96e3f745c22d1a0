import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readCases } from "@/server/ship/testing/read-cases";
import { CasesScreen } from "@/ui/ship/testing/cases-screen";

export const metadata: Metadata = { title: "Test cases" };

export default async function CasesPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  return <CasesScreen initial={await forPage(readCases(viewer, key))} />;
}
