"use client";

import { type FormDefinition, type RawAnswers } from "@/core/intake/form";
import { useState } from "react";
import { Sheet } from "./public-sheet";
import { FormFields } from "./form-fields";
import { Button } from "@/ui/kit/button";

/** The form as it will be, to be tried; nothing is sent. */
export function FormPreview({
  definition,
  projectName,
}: {
  definition: FormDefinition;
  projectName: string;
}) {
  const [values, setValues] = useState<RawAnswers>({});
  return (
    <section
      aria-label="Preview"
      className="overflow-y-auto border-l border-line bg-well max-xl:hidden"
    >
      <p className="px-4 pt-2 text-[12.5px] text-ink-soft">
        As others see it. Try it: nothing is sent.
      </p>
      <div className="[&_main]:!py-3">
        <Sheet projectName={projectName}>
          <h3 className="text-[20px] leading-tight">{definition.title}</h3>
          <p className="mb-4 mt-1 whitespace-pre-wrap text-ink-soft">{definition.intro}</p>
          <div className="flex flex-col gap-4">
            <FormFields
              questions={definition.questions.map((q) => ({
                ...q,
                id: `p-${q.id}`,
                shownIf: q.shownIf && { ...q.shownIf, questionId: `p-${q.shownIf.questionId}` },
              }))}
              values={values}
              errors={[]}
              onChange={(id, value) => setValues((v) => ({ ...v, [id]: value }))}
            />
            <Button look="accent" className="self-start" onClick={() => setValues({})}>
              Send report
            </Button>
          </div>
        </Sheet>
      </div>
    </section>
  );
}
