import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readAlike } from "@/server/plan/alike-sized";
import { readSizing } from "@/server/plan/sizing";
import { SizingScreen } from "@/ui/plan/sizing-screen";

export const metadata: Metadata = { title: "Sizing" };

export default async function SizingPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  const initial = await forPage(readSizing(viewer, key));
  // With the page: a list that came later would push the rounds below it away under the pointer.
  const alike = await Promise.all(
    initial.rounds.map(async ({ item }) => {
      const found = await forPage(readAlike(viewer, key, item.id));
      return [item.id, found.alike] as const;
    }),
  );
  return <SizingScreen initial={initial} alike={Object.fromEntries(alike)} />;
}
