"use client";
import type { Condition } from "@/core/condition/condition";
import type { Vocabulary } from "@/core/condition/vocabulary";
import type { NewAssignee } from "@/core/workflow/follow-ups/assign";
import type { FieldValue } from "@/core/workflow/follow-ups/set-field";
import type { Recipient } from "@/core/workflow/follow-ups/tell";
import type { ParameterEditor } from "@/core/workflow/parameter";
import { ConditionEditor } from "@/ui/condition/condition-editor";
import { Check } from "@/ui/kit/check";
import { CommitNumber, CommitText } from "@/ui/kit/commit-input";
import { TextArea } from "@/ui/kit/field";
import { Select } from "@/ui/kit/select";
import { FieldValueFields } from "./field-value-fields";
import { NewAssigneeFields } from "./new-assignee-fields";
import { RecipientList } from "./recipient-list";

const SMALL: readonly ParameterEditor["kind"][] = ["number", "choice", "choice or none"];

/** What a rule leaves open, each part with the editor that its kind names. */
export function ParameterFields<R extends object>({
  rule,
  editors,
  vocabulary,
  onChange,
}: {
  rule: R;
  editors: Partial<Record<string, ParameterEditor>>;
  vocabulary: Vocabulary;
  onChange: (rule: R) => void;
}) {
  const parts = Object.entries(editors) as [keyof R, ParameterEditor][];
  if (parts.length === 0) return null;
  const inARow = parts.length > 1 && parts.every(([, editor]) => SMALL.includes(editor.kind));
  return (
    <div className={inARow ? "grid grid-cols-[80px_1fr_1fr] gap-2" : "flex flex-col gap-1"}>
      {parts.map(([name, editor]) => (
        <ParameterField
          key={String(name)}
          editor={editor}
          value={rule[name]}
          vocabulary={vocabulary}
          onChange={(value) => onChange({ ...rule, [name]: value })}
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
    case "number": {
      const { label, least, most, parts } = editor;
      const fitting = (n: number) => Math.min(most, Math.max(least, parts ? n : Math.round(n)));
      return (
        <CommitNumber
          label={label}
          value={value as number}
          min={least}
          step={parts ? "any" : 1}
          disabled={false}
          onCommit={(n) => onChange(fitting(n ?? least))}
        />
      );
    }
    case "flag":
      return (
        <Check checked={value as boolean} onChange={onChange} className="text-[13px]">
          {editor.label}
        </Check>
      );
    case "text":
      return (
        <CommitText
          label={editor.label}
          value={value as string}
          max={editor.most}
          disabled={false}
          required
          onCommit={onChange}
        />
      );
    case "lines":
      return <Lines {...editor} lines={value as readonly string[]} onChange={onChange} />;
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
    case "field value":
      return (
        <FieldValueFields
          change={value as FieldValue}
          vocabulary={vocabulary}
          onChange={onChange}
        />
      );
    case "new assignee":
      return (
        <NewAssigneeFields to={value as NewAssignee} vocabulary={vocabulary} onChange={onChange} />
      );
    case "recipients":
      return (
        <RecipientList
          whom={value as readonly Recipient[]}
          vocabulary={vocabulary}
          onChange={onChange}
        />
      );
  }
}

/** Texts, one a line; the last of them stays. */
function Lines({
  label,
  lines,
  most,
  each,
  onChange,
}: {
  label: string;
  lines: readonly string[];
  most: number;
  each: number;
  onChange: (lines: string[]) => void;
}) {
  const store = (text: string) => {
    const next = text
      .split("\n")
      .map((line) => line.trim().slice(0, each))
      .filter(Boolean)
      .slice(0, most);
    if (next.length > 0) onChange(next);
  };
  return (
    <TextArea
      aria-label={label}
      rows={Math.min(6, lines.length + 1)}
      defaultValue={lines.join("\n")}
      onBlur={(e) => store(e.target.value)}
    />
  );
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
