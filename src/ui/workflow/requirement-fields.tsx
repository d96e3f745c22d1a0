"use client";
import { CommitNumber } from "@/ui/kit/commit-input";
import { Select } from "@/ui/kit/select";
import { Check } from "@/ui/kit/check";
import type { Condition } from "@/core/condition/condition";
import type { Vocabulary } from "@/core/condition/vocabulary";
import type { ParameterEditor } from "@/core/workflow/requirements/kind";
import { requirementKindOf, type Requirement } from "@/core/workflow/requirements/table";
import { ConditionEditor } from "@/ui/condition/condition-editor";

/** What a requirement leaves open. */
export function RequirementFields({
  requirement,
  vocabulary,
  onChange,
}: {
  requirement: Requirement;
  vocabulary: Vocabulary;
  onChange: (requirement: Requirement) => void;
}) {
  const editors = Object.entries(requirementKindOf(requirement.kind).editors);
  if (editors.length === 0) return null;
  const values = requirement as unknown as Record<string, unknown>;
  return (
    <div className={editors.length > 1 ? "grid grid-cols-[80px_1fr_1fr] gap-2" : ""}>
      {editors.map(([name, editor]) => (
        <ParameterField
          key={name}
          editor={editor!}
          value={values[name]}
          vocabulary={vocabulary}
          onChange={(value) => onChange({ ...requirement, [name]: value } as Requirement)}
        />
      ))}
    </div>
  );
}

function ParameterField({
  editor,
  value,
  vocabulary,
  onChange,
}: {
  editor: ParameterEditor;
  value: unknown;
  vocabulary: Vocabulary;
  onChange: (value: unknown) => void;
}) {
  switch (editor.kind) {
    case "choice":
    case "choice or none":
      return (
        <Select
          label={editor.label}
          value={(value as string | null) ?? ""}
          options={editor.options(vocabulary)}
          onChange={(chosen) => onChange(chosen || (editor.kind === "choice" ? chosen : null))}
        />
      );
    case "number":
      return (
        <CommitNumber
          label={editor.label}
          value={value as number}
          min={editor.least}
          disabled={false}
          onCommit={(n) =>
            onChange(Math.min(editor.most, Math.max(editor.least, Math.round(n ?? editor.least))))
          }
        />
      );
    case "flag":
      return (
        <Check checked={value as boolean} onChange={onChange} className="text-[13px]">
          {editor.label}
        </Check>
      );
    case "some of":
      return (
        <SomeOf options={editor.options} chosen={value as readonly string[]} onChange={onChange} />
      );
    case "condition":
      return (
        <ConditionEditor
          sameForAll
          condition={value as Condition}
          vocabulary={vocabulary}
          onChange={onChange}
        />
      );
  }
}

/** Some of a few words; the last of them stays. */
function SomeOf({
  options,
  chosen,
  onChange,
}: {
  options: readonly string[];
  chosen: readonly string[];
  onChange: (chosen: string[]) => void;
}) {
  const set = (option: string, on: boolean) => {
    const next = options.filter((o) => (o === option ? on : chosen.includes(o)));
    if (next.length > 0) onChange(next);
  };
  return (
    <div className="flex flex-wrap gap-3">
      {options.map((option) => (
        <Check
          key={option}
          checked={chosen.includes(option)}
          onChange={(on) => set(option, on)}
          className="text-[13px]"
        >
          {option}
        </Check>
      ))}
    </div>
  );
}
