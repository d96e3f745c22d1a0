import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readDeliveries } from "@/server/ship/read-deliveries";
import { readWhatIsWhere } from "@/server/ship/read-what-is-where";
import { WhereScreen } from "@/ui/ship/where-screen";

export const metadata: Metadata = { title: "Environments" };

export default async function EnvironmentsPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  const [where, deliveries] = await forPage(
    Promise.all([readWhatIsWhere(viewer, key), readDeliveries(viewer, key)]),
  );
  return <WhereScreen initial={where} deliveries={deliveries} />;
}
