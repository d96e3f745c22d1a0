"use client";
import { Button } from "@/ui/kit/button";
import { counted } from "@/core/formats/counted";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { FIRST_FORM, type FormDefinition } from "@/core/intake/form";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ofDesign, useReadAgain } from "@/ui/kit/use-read-again";
import { FormBuilder } from "./form-builder";
import type { FormDraft, FormsView, StoredForm } from "@/core/intake/forms-view";
import { intakeContract } from "@/core/intake/contract";
import type { FormRequest } from "@/core/intake/request";
import { queryOf, keyOf, ask } from "@/ui/kit/request";

/**
 * The public forms of a project: which there are, what they ask, and how they look to whoever fills
 * them in.
 */
export function FormsScreen({ initial }: { initial: FormsView }) {
  const client = useQueryClient();
  const { key } = initial.project;
  const { data: view } = useQuery({
    ...queryOf(intakeContract.forms, { params: { key } }),
    initialData: initial,
  });
  // What is typed into a form stays while another is looked at.
  const [drafts, setDrafts] = useState<Readonly<Record<string, FormDraft | null>>>({});
  const keep = (id: string, draft: FormDraft | null) => setDrafts((d) => ({ ...d, [id]: draft }));
  const [chosen, setChosen] = useState<string | null>(initial.forms[0]?.id ?? null);
  useReadAgain(ofDesign, () =>
    client.invalidateQueries({ queryKey: keyOf(intakeContract.forms, { params: { key } }) }),
  );
  const form = view.forms.find((f) => f.id === chosen) ?? view.forms[0] ?? null;
  /** @throws Problem */
  const send = async (body: FormRequest) => {
    const done = await ask(intakeContract.changeForms, { params: { key }, body });
    await client.invalidateQueries({ queryKey: keyOf(intakeContract.forms, { params: { key } }) });
    return done;
  };
  const tell = (work: Promise<unknown>) => void work.catch(tellProblem);
  const add = async (definition: FormDefinition, like: string) => {
    const names = view.forms.map((f) => f.slug);
    let slug = like;
    for (let n = 2; names.includes(slug); n++) slug = `${like}-${n}`;
    const { id } = await send({ kind: "add", slug, definition });
    setChosen(id);
    tellDone("A new form, still closed.", () => send({ kind: "remove", id }));
  };
  const remove = async (id: string, title: string) => {
    await send({ kind: "remove", id });
    setChosen(null);
    tellDone(`“${title}” is taken out. Its reports stay.`, () => send({ kind: "bring back", id }));
  };
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 items-center gap-x-4 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">Forms</h1>
        <p className="text-ink-soft max-md:hidden">
          {view.project.visibility === "everyone"
            ? "By these, people without an account report. Each has an address of its own."
            : "This project is for its members only: its forms cannot be opened from outside."}
        </p>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[210px_minmax(0,1fr)]">
        <nav aria-label="Forms of the project" className="overflow-y-auto border-r border-line">
          <ul>
            {view.forms.map((f) => (
              <li key={f.id}>
                <FormEntry
                  form={f}
                  typed={Boolean(drafts[f.id])}
                  chosen={f.id === form?.id}
                  onChoose={() => setChosen(f.id)}
                />
              </li>
            ))}
          </ul>
          {view.mayEdit && (
            <div className="flex flex-col items-start gap-2 p-4">
              <Button small onClick={() => tell(add(FIRST_FORM, "form"))}>
                New form
              </Button>
              {form && (
                <Button
                  look="quiet"
                  small
                  onClick={() =>
                    tell(
                      add(
                        { ...form.definition, title: `${form.definition.title} (copy)` },
                        form.slug,
                      ),
                    )
                  }
                >
                  Copy this one
                </Button>
              )}
            </div>
          )}
        </nav>
        {form ? (
          <FormBuilder
            key={form.id}
            form={form}
            view={view}
            kept={drafts[form.id] ?? null}
            onKeep={(draft) => keep(form.id, draft)}
            onStore={async (change, seenVersion) => {
              await send({ kind: "change", id: form.id, seenVersion, ...change });
              keep(form.id, null);
              tellDone(`“${(change.definition ?? form.definition).title}” is stored.`);
            }}
            onRemove={() => tell(remove(form.id, form.definition.title))}
          />
        ) : (
          <p className="p-10 text-ink-soft">
            {view.mayEdit
              ? "No form yet. Begin with a new one: it asks what most reports need, and stays closed until you open it."
              : "No form yet. A lead makes them."}
          </p>
        )}
      </div>
    </div>
  );
}

/** A form in the list: what it is called, whether it is open, and how much comes by it. */
function FormEntry({
  form,
  typed,
  chosen,
  onChoose,
}: {
  form: StoredForm;
  typed: boolean;
  chosen: boolean;
  onChoose: () => void;
}) {
  return (
    <button
      type="button"
      aria-current={chosen ? "true" : undefined}
      onClick={onChoose}
      className={`block w-full border-b border-line px-4 py-2 text-left ${chosen ? "bg-accent-soft shadow-[inset_3px_0_0_var(--accent)]" : "hover:bg-sheet"}`}
    >
      <span className="block font-medium leading-snug">{form.definition.title}</span>
      <span className="flex justify-between gap-2 text-[12.5px] text-ink-soft">
        <span>
          {typed ? (
            <b className="font-semibold text-accent">not stored yet</b>
          ) : form.open ? (
            "open"
          ) : (
            <b className="font-semibold text-signal-ink">closed</b>
          )}
        </span>
        <span>{counted(form.lately, "report")} in 30 days</span>
      </span>
    </button>
  );
}
