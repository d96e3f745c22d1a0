import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { forPage } from "@/app/page-access";
import { publicForm } from "@/server/intake/forms";
import { ReportForm } from "@/ui/intake/report-form";

export const metadata: Metadata = { title: "Report a problem", robots: { index: false } };
export const dynamic = "force-dynamic";

/** A form inside another site's page, where its project allows that. */
export default async function EmbeddedForm({
  params,
}: {
  params: Promise<{ key: string; form: string }>;
}) {
  const { key, form: slug } = await params;
  const form = await forPage(publicForm(key.toUpperCase(), slug));
  if (!form.open || !form.embeddable) notFound();
  return (
    <ReportForm
      embedded
      projectKey={form.projectKey}
      projectName={form.projectName}
      slug={form.slug}
      definition={form.definition}
    />
  );
}
