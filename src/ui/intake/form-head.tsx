"use client";

import { type FormDefinition } from "@/core/intake/form";
import { Field, TextArea, TextInput } from "@/ui/kit/field";

/** What the form is called, where it is, and what stands above its questions. */
export function FormHead({
  draft,
  slug,
  projectKey,
  locked,
  onChange,
  onSlug,
}: {
  draft: FormDefinition;
  slug: string;
  projectKey: string;
  locked: boolean;
  onChange: (change: Partial<FormDefinition>) => void;
  onSlug: (slug: string) => void;
}) {
  return (
    <fieldset disabled={locked} className="grid grid-cols-2 gap-x-3 gap-y-2">
      <Field label="Title">
        <TextInput
          maxLength={120}
          value={draft.title}
          onChange={(e) => onChange({ title: e.target.value })}
        />
      </Field>
      <Field label="Address">
        <span className="flex items-center gap-1 font-normal text-ink-soft">
          <span className="whitespace-nowrap font-mono text-[12px]">/report/{projectKey}/</span>
          <TextInput
            aria-label="Address"
            maxLength={40}
            value={slug}
            onChange={(e) => onSlug(e.target.value.toLowerCase())}
          />
        </span>
      </Field>
      <Field label="Below the title" className="col-span-2">
        <TextArea
          className="!min-h-12"
          rows={2}
          maxLength={2_000}
          value={draft.intro}
          onChange={(e) => onChange({ intro: e.target.value })}
        />
      </Field>
    </fieldset>
  );
}
