import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readWhatIsWhere } from "@/server/ship/read-what-is-where";
import { WhereScreen } from "@/ui/ship/where-screen";

export const metadata: Metadata = { title: "Environments" };

export default async function WherePage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  return <WhereScreen initial={await forPage(readWhatIsWhere(viewer, key))} />;
}
