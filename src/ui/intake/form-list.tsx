import type { FormDefinition } from "@/core/intake/form";

/** The open forms of a project, each with what it is about. */
export function FormList({
  projectKey,
  forms,
}: {
  projectKey: string;
  forms: readonly { slug: string; definition: FormDefinition }[];
}) {
  return (
    <ul className="mt-4 flex flex-col">
      {forms.map((f) => (
        <li key={f.slug} className="border-t border-line py-3">
          <a className="link text-[16px]" href={`/report/${projectKey}/${f.slug}`}>
            {f.definition.title}
          </a>
          <p className="text-ink-soft">{f.definition.intro}</p>
        </li>
      ))}
    </ul>
  );
}
