import type { Metadata } from "next";
import { forPage } from "@/app/page-access";
import { reportPage } from "@/server/intake/submit";
import { ReportForm } from "@/ui/intake/report-form";

export const metadata: Metadata = { title: "Report a problem" };
export const dynamic = "force-dynamic";

export default async function ReportPage({ params }: { params: Promise<{ key: string }> }) {
  const project = await forPage(reportPage((await params).key.toUpperCase()));
  return <ReportForm projectKey={project.key} projectName={project.name} />;
}
