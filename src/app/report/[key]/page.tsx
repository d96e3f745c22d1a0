import type { Metadata } from "next";
import { forPage } from "@/app/page-access";
import { publicForms } from "@/server/intake/forms";
import { FormList } from "@/ui/intake/form-list";
import { Sheet } from "@/ui/intake/public-sheet";
import { ReportForm } from "@/ui/intake/report-form";

export const metadata: Metadata = { title: "Report a problem" };
export const dynamic = "force-dynamic";

/** The forms of a project; where there is one, the form itself. */
export default async function ReportPage({ params }: { params: Promise<{ key: string }> }) {
  const { key, name, forms } = await forPage(publicForms((await params).key.toUpperCase()));
  const [only] = forms;
  if (forms.length === 1)
    return (
      <ReportForm
        projectKey={key}
        projectName={name}
        slug={only.slug}
        definition={only.definition}
      />
    );
  return (
    <Sheet projectName={name}>
      <h1 className="text-[24px] leading-tight">
        {forms.length === 0 ? "No form is open just now" : "What is it about?"}
      </h1>
      {forms.length === 0 && (
        <p className="mt-2 text-ink-soft">
          Come back later, or write to whoever gave you this address.
        </p>
      )}
      <FormList projectKey={key} forms={forms} />
    </Sheet>
  );
}
