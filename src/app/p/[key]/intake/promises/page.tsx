import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readPromises } from "@/server/intake/promises";
import { PromisesScreen } from "@/ui/intake/promises-screen";

export const metadata: Metadata = { title: "Promises" };

export default async function PromisesPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  return <PromisesScreen initial={await forPage(readPromises(viewer, (await params).key))} />;
}
