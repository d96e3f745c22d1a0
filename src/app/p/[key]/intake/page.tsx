import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readDesk } from "@/server/intake/desk";
import { readReport } from "@/server/intake/read-report";
import { DeskScreen } from "@/ui/intake/desk-screen";

export const metadata: Metadata = { title: "Intake" };

export default async function IntakePage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const desk = await forPage(readDesk(viewer, (await params).key));
  const [first] = desk.queue;
  return (
    <DeskScreen initial={desk} initialReport={first ? await readReport(viewer, first.id) : null} />
  );
}
