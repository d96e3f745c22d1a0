"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { alertsContract } from "@/core/alerts/contract";
import {
  ownRuleSchema,
  RULE_HAPPENINGS,
  ruleHappeningWords,
  type Doer,
  type OwnRule,
  type RuleHappening,
} from "@/core/alerts/own-rule";
import type { RuleGround } from "@/core/alerts/rules-view";
import { EVERY_ITEM, isRead, type WrittenCondition } from "@/core/condition/condition";
import { ConditionEditor } from "@/ui/condition/condition-editor";
import { TextButton } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { Field, FieldGroup, TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { problemOf, queryOf } from "@/ui/kit/request";
import { namedOptions, Select } from "@/ui/kit/select";
import { SelectSeveral } from "@/ui/kit/select-several";
import { MAIL_OPTIONS } from "./mail-words";
import { RuleTrial } from "./rule-trial";

const HAPPENS = RULE_HAPPENINGS.map((value) => ({ value, label: ruleHappeningWords(value) }));

const DOERS: { value: Doer["kind"]; label: string }[] = [
  { value: "anybody", label: "anybody" },
  { value: "people", label: "certain people" },
  { value: "teams", label: "somebody of a team" },
  { value: "process", label: "the process itself" },
  { value: "requesters", label: "whoever reported it" },
];

/** Makes a rule of one's own or changes it; before it is kept it can be tried. */
export function OwnRuleForm({
  begun,
  projects,
  isNew,
  onKeep,
  onLeave,
}: {
  begun: OwnRule;
  projects: readonly { key: string; name: string }[];
  isNew: boolean;
  onKeep: (rule: OwnRule) => Promise<void>;
  onLeave: () => void;
}) {
  const [rule, setRule] = useState(begun);
  const [written, setWritten] = useState<WrittenCondition | null>(begun.condition);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const { projectKey } = rule;
  const { data: ground } = useQuery({
    ...queryOf(alertsContract.ruleGround, { query: { project: projectKey ?? "" } }),
    enabled: projectKey !== null,
  });
  const change = (next: Partial<OwnRule>) => setRule((now) => ({ ...now, ...next }));
  /** Of another project none of what this one calls its own is left. */
  const choose = (key: string) => {
    const by = rule.by.kind === "people" || rule.by.kind === "teams" ? anybody : rule.by;
    change({ projectKey: key || null, typeIds: [], fields: [], by });
    setWritten(null);
  };
  /** The rule as it stands, or why it is none yet. */
  const finished = (): OwnRule | null => {
    if (written !== null && !isRead(written)) {
      setProblem("The condition cannot be read yet.");
      return null;
    }
    const parsed = ownRuleSchema.safeParse({ ...rule, condition: written });
    setProblem(parsed.success ? null : parsed.error.issues[0].message);
    return parsed.success ? parsed.data : null;
  };
  const keep = async () => {
    const whole = finished();
    if (!whole) return;
    setBusy(true);
    try {
      await onKeep(whole);
    } catch (error) {
      const { sentence, help } = problemOf(error);
      setProblem(`${sentence} ${help}`);
      setBusy(false);
    }
  };
  return (
    <form
      className="sheet flex flex-col gap-3 p-4"
      aria-label={isNew ? "A new rule" : "Change the rule"}
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <RuleWhen
        rule={rule}
        ground={projectKey === null ? undefined : ground}
        projects={projects}
        change={change}
        choose={choose}
      />
      <RuleCondition
        written={written}
        ground={projectKey === null ? undefined : ground}
        onChange={setWritten}
      />
      <RuleHow rule={rule} change={change} />
      <RuleTrial ruleNow={finished} changed={JSON.stringify([rule, written])} />
      <FormFooter
        send={isNew ? "Keep the rule" : "Keep the change"}
        busy={busy}
        problem={problem}
        onLeave={onLeave}
      />
    </form>
  );
}

const anybody: Doer = { kind: "anybody" };

interface PartProps {
  rule: OwnRule;
  change: (next: Partial<OwnRule>) => void;
}

/** Which items, what happens to them, and who did it. */
function RuleWhen({
  rule,
  ground,
  projects,
  change,
  choose,
}: PartProps & {
  ground: RuleGround | undefined;
  projects: readonly { key: string; name: string }[];
  choose: (key: string) => void;
}) {
  const types = ground?.vocabulary.types.map(({ id, name }) => ({ value: id, label: name })) ?? [];
  const fields = ground?.fields.map(({ id, name }) => ({ value: id, label: name })) ?? [];
  return (
    <div className="flex flex-wrap gap-x-4 gap-y-3">
      <Field label="In">
        <Select
          value={rule.projectKey ?? ""}
          options={[
            { value: "", label: "all my projects" },
            ...projects.map(({ key, name }) => ({ value: key, label: name })),
          ]}
          onChange={choose}
        />
      </Field>
      {rule.projectKey !== null && (
        <FieldGroup label="Of type">
          <SelectSeveral
            label="Of type"
            none="any type"
            values={rule.typeIds}
            options={types}
            onChange={(typeIds) => change({ typeIds })}
          />
        </FieldGroup>
      )}
      <FieldGroup label="When">
        <SelectSeveral
          label="When"
          none="anything happens to it"
          values={rule.happens}
          options={HAPPENS}
          onChange={(happens) =>
            change({
              happens: happens as RuleHappening[],
              fields: happens.includes("changed") ? rule.fields : [],
            })
          }
        />
      </FieldGroup>
      {rule.happens.includes("changed") && fields.length > 0 && (
        <FieldGroup label="What changes">
          <SelectSeveral
            label="What changes"
            none="any field"
            values={rule.fields}
            options={fields}
            onChange={(chosen) => change({ fields: chosen })}
          />
        </FieldGroup>
      )}
      <RuleDoer rule={rule} ground={ground} change={change} />
    </div>
  );
}

function RuleDoer({ rule, ground, change }: PartProps & { ground: RuleGround | undefined }) {
  const { by } = rule;
  const offered = (kind: "people" | "teams") => namedOptions(ground?.vocabulary[kind] ?? []);
  const choose = (kind: Doer["kind"]) => {
    if (kind !== "people" && kind !== "teams") return change({ by: { kind } });
    const [first] = offered(kind);
    if (first) change({ by: { kind, ids: [first.value] } });
  };
  return (
    <>
      <Field label="Done by">
        <Select
          value={by.kind}
          options={DOERS.map((doer) => ({
            ...doer,
            disabled: (doer.value === "people" || doer.value === "teams") && !ground,
          }))}
          onChange={choose}
        />
      </Field>
      {(by.kind === "people" || by.kind === "teams") && (
        <FieldGroup label={by.kind === "people" ? "Who" : "Which team"}>
          <SelectSeveral
            label={by.kind === "people" ? "Who" : "Which team"}
            values={by.ids}
            options={offered(by.kind)}
            onChange={(ids) => ids.length > 0 && change({ by: { ...by, ids } })}
          />
        </FieldGroup>
      )}
    </>
  );
}

/** What of the item is asked besides, where something is. */
function RuleCondition({
  written,
  ground,
  onChange,
}: {
  written: WrittenCondition | null;
  ground: RuleGround | undefined;
  onChange: (written: WrittenCondition | null) => void;
}) {
  if (!ground)
    return (
      <p className="text-[13px] text-ink-soft">
        In one project a rule can also ask for types, people and a condition.
      </p>
    );
  if (written === null)
    return (
      <div>
        <TextButton className="text-[13px]" onClick={() => onChange(EVERY_ITEM)}>
          Only where a condition holds …
        </TextButton>
      </div>
    );
  return (
    <div className="flex flex-col gap-1">
      <ConditionEditor condition={written} vocabulary={ground.vocabulary} onChange={onChange} />
      <div>
        <TextButton className="text-[13px]" onClick={() => onChange(null)}>
          Without a condition
        </TextButton>
      </div>
    </div>
  );
}

/** How it tells, and what it is called. */
function RuleHow({ rule, change }: PartProps) {
  return (
    <div className="flex flex-wrap items-end gap-x-4 gap-y-3">
      <Field label="Mail">
        <Select value={rule.mail} options={MAIL_OPTIONS} onChange={(mail) => change({ mail })} />
      </Field>
      <Check checked={rule.feed} onChange={(feed) => change({ feed })}>
        in my feed
      </Check>
      <Field label="Called" className="min-w-[220px] flex-1">
        <TextInput
          value={rule.name}
          maxLength={80}
          placeholder="by what it says"
          onChange={(event) => change({ name: event.target.value })}
        />
      </Field>
    </div>
  );
}
