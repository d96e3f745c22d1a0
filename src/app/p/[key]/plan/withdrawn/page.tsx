import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readWithdrawn } from "@/server/item/withdrawn";
import { WithdrawnScreen } from "@/ui/plan/withdrawn-screen";

export const metadata: Metadata = { title: "Withdrawn" };

export default async function WithdrawnPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  return <WithdrawnScreen initial={await forPage(readWithdrawn(viewer, key))} />;
}
