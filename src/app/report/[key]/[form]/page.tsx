import type { Metadata } from "next";
import { forPage } from "@/app/page-access";
import { readAttempt } from "@/server/intake/form-attempt";
import { publicForm } from "@/server/intake/forms";
import { Sheet } from "@/ui/intake/public-sheet";
import { ReportForm } from "@/ui/intake/report-form";

export const metadata: Metadata = { title: "Report a problem" };
export const dynamic = "force-dynamic";

export default async function FormPage({
  params,
  searchParams,
}: {
  params: Promise<{ key: string; form: string }>;
  searchParams: Promise<{ attempt?: string | string[] }>;
}) {
  const { key, form: slug } = await params;
  const form = await forPage(publicForm(key.toUpperCase(), slug));
  const { attempt } = await searchParams;
  if (form.open)
    return (
      <ReportForm
        projectKey={form.projectKey}
        projectName={form.projectName}
        slug={form.slug}
        definition={form.definition}
        attempt={typeof attempt === "string" ? await readAttempt(form.id, attempt) : null}
      />
    );
  return (
    <Sheet projectName={form.projectName}>
      <h1 className="text-[24px] leading-tight">This form is closed</h1>
      <p className="mt-2">“{form.definition.title}” does not take reports any more.</p>
      <p className="mt-4">
        <a className="link" href={`/report/${form.projectKey}`}>
          See what else you can tell us
        </a>
      </p>
    </Sheet>
  );
}
