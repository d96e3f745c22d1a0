"use client";
import { CommitText, CommitNumber } from "@/ui/kit/commit-input";
import { Select, wordOptions, namedOptions, type Option } from "@/ui/kit/select";
import { AddMenu } from "@/ui/kit/add-menu";
import { TextArea } from "@/ui/kit/field";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { FIELD_WORDS, itemField, SET_FIELDS, type SetField } from "@/core/item/fields";
import { recipientWords } from "@/core/workflow/words";
import { OwnFieldInput } from "@/ui/item/own-field-input";
import type {
  FieldValue,
  FollowUp,
  FollowUpKind,
  NewAssignee,
  Recipient,
} from "@/core/workflow/follow-up";
import { OUTCOMES, type Outcome } from "@/core/workflow/state";
import { X } from "lucide-react";

/** A follow-up of a kind, as it begins. */
export function newFollowUp(kind: FollowUpKind, vocabulary: Vocabulary): FollowUp {
  switch (kind) {
    case "set field":
      return { kind, change: { field: "priority", value: "high" } };
    case "assign":
      return {
        kind,
        to: vocabulary.teams[0]
          ? { kind: "least loaded", teamId: vocabulary.teams[0].id }
          : { kind: "mover" },
      };
    case "set outcome":
      return { kind, outcome: "delivered" };
    case "comment":
      return { kind, text: "Ready for the next step." };
    case "create sub-tasks":
      return { kind, titles: ["Tell the quay crews"] };
    case "tell":
      return { kind, whom: [{ kind: "assignee" }], text: "Something is ready for you." };
    default:
      return { kind };
  }
}

/** The values that a field can be set to; an empty one clears it. */
function valuesOf(field: SetField, vocabulary: Vocabulary): Option[] {
  const { editor, followUp, schema } = itemField(field);
  const clear = schema.safeParse(null).success ? [{ value: "", label: "nothing" }] : [];
  if (followUp === "nothing" || editor.kind !== "choice") return clear;
  const offered =
    typeof editor.options === "string"
      ? namedOptions(vocabulary[editor.options])
      : wordOptions(editor.options);
  return [...offered, ...clear];
}

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

interface Of<K extends FollowUpKind> {
  followUp: Extract<FollowUp, { kind: K }>;
  vocabulary: Vocabulary;
  onChange: (followUp: FollowUp) => void;
}

/** What a follow-up leaves open. */
export function FollowUpFields({ followUp, ...rest }: Of<FollowUpKind>) {
  switch (followUp.kind) {
    case "set field":
      return <SetFieldFields followUp={followUp} {...rest} />;
    case "assign":
      return <AssignFields followUp={followUp} {...rest} />;
    case "set outcome":
      return <OutcomeField followUp={followUp} {...rest} />;
    case "comment":
      return <CommentField followUp={followUp} {...rest} />;
    case "create sub-tasks":
      return <SubTasksField followUp={followUp} {...rest} />;
    case "tell":
      return <TellFields followUp={followUp} {...rest} />;
    default:
      return null;
  }
}

/** Which field is set, and to what. */
function SetFieldFields({ followUp: f, vocabulary, onChange }: Of<"set field">) {
  const own = vocabulary.own.filter((x) => x.removedAt === null && x.kind !== "computed");
  const change = (next: string, raw: string) =>
    onChange({ ...f, change: { field: next, value: raw === "" ? null : raw } as FieldValue });
  const choose = (next: string) => {
    if (next.startsWith("own."))
      onChange({ ...f, change: { field: "own", fieldId: next.slice(4), value: null } });
    else change(next, valuesOf(next as SetField, vocabulary)[0].value);
  };
  const options = [
    ...SET_FIELDS.map((x) => ({ value: x as string, label: FIELD_WORDS[x] })),
    ...own.map((x) => ({ value: `own.${x.id}`, label: x.name })),
  ];
  if (f.change.field === "own") {
    const { fieldId, value } = f.change;
    const field = vocabulary.own.find((x) => x.id === fieldId);
    return (
      <div className="grid grid-cols-2 gap-2">
        <Select label="Field" value={`own.${fieldId}`} options={options} onChange={choose} />
        {field && (
          <OwnFieldInput
            field={field}
            value={value}
            people={vocabulary.people}
            onChange={(next) => onChange({ ...f, change: { field: "own", fieldId, value: next } })}
          />
        )}
      </div>
    );
  }
  const { field, value } = f.change;
  return (
    <div className="grid grid-cols-2 gap-2">
      <Select label="Field" value={field} options={options} onChange={choose} />
      {itemField(field).editor.kind === "number" ? (
        <CommitNumber
          label="Value"
          value={value as number | null}
          disabled={false}
          step="any"
          onCommit={(n) => onChange({ ...f, change: { field, value: n } as FieldValue })}
        />
      ) : (
        <Select
          label="Value"
          value={String(value ?? "")}
          options={valuesOf(field, vocabulary)}
          onChange={(raw) => change(field, raw)}
        />
      )}
    </div>
  );
}

/** Whom it is given to. */
function AssignFields({ followUp: f, vocabulary, onChange }: Of<"assign">) {
  const { to } = f;
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
        onChange={(kind) => onChange({ ...f, to: make(kind as NewAssignee["kind"]) })}
      />
      {to.kind === "person" && (
        <Select
          label="Person"
          value={to.personId}
          options={namedOptions(vocabulary.people)}
          onChange={(personId) => onChange({ ...f, to: { ...to, personId } })}
        />
      )}
      {(to.kind === "least loaded" || to.kind === "in turn") && (
        <Select
          label="Team"
          value={to.teamId}
          options={namedOptions(vocabulary.teams)}
          onChange={(teamId) => onChange({ ...f, to: { ...to, teamId } })}
        />
      )}
    </div>
  );
}

/** How it ended. */
function OutcomeField({ followUp: f, onChange }: Of<"set outcome">) {
  return (
    <Select
      label="Outcome"
      value={f.outcome}
      options={wordOptions(OUTCOMES)}
      onChange={(outcome) => onChange({ ...f, outcome: outcome as Outcome })}
    />
  );
}

/** What is written below it. */
function CommentField({ followUp: f, onChange }: Of<"comment">) {
  return (
    <CommitText
      label="Comment"
      value={f.text}
      max={2_000}
      disabled={false}
      required
      onCommit={(text) => onChange({ ...f, text })}
    />
  );
}

/** What its sub-tasks are called. */
function SubTasksField({ followUp: f, onChange }: Of<"create sub-tasks">) {
  return (
    <TextArea
      aria-label="Titles of the sub-tasks, one a line"
      rows={Math.min(6, f.titles.length + 1)}
      defaultValue={f.titles.join("\n")}
      onBlur={(e) => {
        const titles = e.target.value
          .split("\n")
          .map((t) => t.trim().slice(0, 300))
          .filter(Boolean)
          .slice(0, 20);
        if (titles.length > 0) onChange({ ...f, titles });
      }}
    />
  );
}

/** Who is told, and what. */
function TellFields({ followUp: f, vocabulary, onChange }: Of<"tell">) {
  return (
    <div className="flex flex-col gap-1">
      <div className="flex flex-wrap items-center gap-1">
        {f.whom.map((told, i) => (
          <button
            key={i}
            type="button"
            className="inline-flex items-center gap-1 rounded-[3px] border border-line px-1.5 text-[12.5px]"
            aria-label={`Do not tell ${recipientWords(told, vocabulary)}`}
            disabled={f.whom.length === 1}
            onClick={() => onChange({ ...f, whom: f.whom.filter((_, j) => j !== i) })}
          >
            {recipientWords(told, vocabulary)}{" "}
            {f.whom.length > 1 && <X size={12} aria-hidden="true" />}
          </button>
        ))}
        <AddMenu
          label="and…"
          options={tellable(vocabulary)}
          onAdd={(value) => onChange({ ...f, whom: [...f.whom, JSON.parse(value) as Recipient] })}
        />
      </div>
      <CommitText
        label="What they are told"
        value={f.text}
        max={500}
        disabled={false}
        required
        onCommit={(text) => onChange({ ...f, text })}
      />
    </div>
  );
}

/** Who can be told. */
function tellable(vocabulary: Vocabulary) {
  const everybody: Recipient[] = [
    ...(["assignee", "reviewer", "creator", "requester", "leads"] as const).map(
      (kind): Recipient => ({
        kind,
      }),
    ),
    ...vocabulary.teams.map((t): Recipient => ({ kind: "team", teamId: t.id })),
    ...vocabulary.people.map((p): Recipient => ({ kind: "person", personId: p.id })),
  ];
  return everybody.map((told) => ({
    value: JSON.stringify(told),
    label: recipientWords(told, vocabulary),
  }));
}
