"use client";

import { type FormDefinition } from "@/core/intake/form";
import type { StoredForm } from "@/core/intake/forms-view";
import { type FormsView } from "@/core/intake/forms-view";
import { Field, TextArea, TextInput } from "@/ui/kit/field";
import { namedOptions, Select } from "@/ui/kit/select";
import { Check } from "@/ui/kit/check";

/** Where reports land, what their senders are told, and who may show the form. */
export function FormLands({
  form,
  draft,
  view,
  locked,
  changed,
  onChange,
  onEmbeddable,
}: {
  form: StoredForm;
  draft: FormDefinition;
  view: FormsView;
  locked: boolean;
  changed: boolean;
  onChange: (change: Partial<FormDefinition>) => void;
  onEmbeddable: (on: boolean) => void;
}) {
  return (
    <fieldset disabled={locked} className="grid grid-cols-2 gap-x-3 gap-y-2">
      <Field label="Lands with the team">
        <Select
          value={draft.lands.teamId ?? ""}
          options={[{ value: "", label: "whoever triages" }, ...namedOptions(view.teams)]}
          onChange={(next) => onChange({ lands: { ...draft.lands, teamId: next || null } })}
        />
      </Field>
      <Field label="Accepted as a">
        <Select
          value={draft.lands.typeId ?? ""}
          options={[{ value: "", label: "choose at triage" }, ...namedOptions(view.types)]}
          onChange={(next) => onChange({ lands: { ...draft.lands, typeId: next || null } })}
        />
      </Field>
      <Field label="Thank-you text" className="col-span-2">
        <TextArea
          className="!min-h-12"
          rows={2}
          maxLength={2_000}
          value={draft.thanks}
          onChange={(e) => onChange({ thanks: e.target.value })}
          placeholder="Shown after sending, and in the mail that goes out at once"
        />
      </Field>
      <Check
        checked={draft.offersKnown}
        onChange={(on) => onChange({ offersKnown: on })}
        className="col-span-2 text-[13px]"
      >
        Offer known problems that look alike while the title is typed
      </Check>
      <Check
        checked={form.embeddable}
        disabled={changed}
        onChange={onEmbeddable}
        className="col-span-2 text-[13px]"
      >
        Other sites may show it in a frame
      </Check>
      {form.embeddable && (
        <Field label="For the other site" className="col-span-2">
          <TextInput
            className="font-mono !text-[12px]"
            readOnly
            onFocus={(e) => e.target.select()}
            value={`<iframe src="${typeof window === "undefined" ? "" : window.location.origin}/embed/${view.project.key}/${form.slug}" width="100%" height="900" title="${form.definition.title.replaceAll('"', "")}"></iframe>`}
          />
        </Field>
      )}
    </fieldset>
  );
}
