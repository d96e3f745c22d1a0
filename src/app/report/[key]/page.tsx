import type { Metadata } from "next";
import { forPage } from "@/app/page-access";
import { publicForms } from "@/server/intake/forms";
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
      <ul className="mt-4 flex flex-col">
        {forms.map((f) => (
          <li key={f.slug} className="border-t border-line py-3">
            <a className="link text-[16px]" href={`/report/${key}/${f.slug}`}>
              {f.definition.title}
            </a>
            <p className="text-ink-soft">{f.definition.intro}</p>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
