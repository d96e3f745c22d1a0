import { headers } from "next/headers";
import { ASKED_PAGE } from "@/app/asked-page";
import { publicForms } from "@/server/intake/forms";
import { FormList } from "@/ui/intake/form-list";
import { Sheet } from "@/ui/intake/public-sheet";

/** An address of no form: what is open beside it, or whom to ask. */
export default async function NoSuchForm() {
  const asked = (await headers()).get(ASKED_PAGE) ?? "";
  const key = /^\/report\/([^/?]+)\/./.exec(asked)?.[1] ?? "";
  const project = await publicForms(key.toUpperCase()).catch(() => null);
  const forms = project?.forms ?? [];
  return (
    <Sheet projectName={project?.name ?? ""}>
      <h1 className="text-[24px] leading-tight">There is no form at this address</h1>
      <p className="mt-2">
        It may be mistyped, or the form has moved.{" "}
        {forms.length > 0
          ? "This is what you can tell us:"
          : "Ask whoever gave it to you for another one. Nothing that you sent before is lost."}
      </p>
      {project && <FormList projectKey={project.key} forms={forms} />}
    </Sheet>
  );
}
