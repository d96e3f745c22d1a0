"use client";
import type { Vocabulary } from "@/core/condition/vocabulary";
import type { NewAssignee } from "@/core/workflow/follow-ups/assign";
import { namedOptions, Select } from "@/ui/kit/select";

const ASSIGNEES: Record<NewAssignee["kind"], string> = {
  person: "one person",
  nobody: "nobody",
  mover: "whoever moves it",
  creator: "its creator",
  reviewer: "the reviewer",
  "previous assignee": "who had it before",
  "least loaded": "whoever has least in progress, of",
  "in turn": "the next in turn, of",
};

/** Whom an item is given to. */
export function NewAssigneeFields({
  to,
  vocabulary,
  onChange,
}: {
  to: NewAssignee;
  vocabulary: Vocabulary;
  onChange: (to: NewAssignee) => void;
}) {
  const make = (kind: NewAssignee["kind"]): NewAssignee => {
    if (kind === "person") return { kind, personId: vocabulary.people[0]?.id ?? "" };
    if (kind === "least loaded" || kind === "in turn")
      return { kind, teamId: vocabulary.teams[0]?.id ?? "" };
    return { kind };
  };
  const kinds = (Object.keys(ASSIGNEES) as NewAssignee["kind"][]).filter(
    (k) =>
      (vocabulary.teams.length > 0 || (k !== "least loaded" && k !== "in turn")) &&
      (vocabulary.people.length > 0 || k !== "person"),
  );
  return (
    <div className="grid grid-cols-2 gap-2">
      <Select
        label="Given to"
        value={to.kind}
        options={kinds.map((k) => ({ value: k, label: ASSIGNEES[k] }))}
        onChange={(kind) => onChange(make(kind as NewAssignee["kind"]))}
      />
      {to.kind === "person" && (
        <Select
          label="Person"
          value={to.personId}
          options={namedOptions(vocabulary.people)}
          onChange={(personId) => onChange({ ...to, personId })}
        />
      )}
      {(to.kind === "least loaded" || to.kind === "in turn") && (
        <Select
          label="Team"
          value={to.teamId}
          options={namedOptions(vocabulary.teams)}
          onChange={(teamId) => onChange({ ...to, teamId })}
        />
      )}
    </div>
  );
}
