"use client";
import { EVERY_ITEM } from "@/core/condition/condition";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { FIELD_WORDS } from "@/core/item/fields";
import {
  DEMANDED_FIELDS,
  LIMIT_MODES,
  type DemandedField,
  type LimitMode,
  type Requirement,
  type RequirementKind,
} from "@/core/workflow/requirement";
import { OUTCOMES } from "@/core/workflow/state";
import { ConditionEditor } from "@/ui/condition/condition-editor";
import { Choice, named, NumberInput } from "./inputs";

/** A requirement of a kind, as it begins. */
export function newRequirement(kind: RequirementKind): Requirement {
  switch (kind) {
    case "filled":
      return { kind, field: "estimate" };
    case "different people":
      return { kind, first: "reviewerId", second: "assigneeId" };
    case "condition":
      return { kind, condition: EVERY_ITEM };
    case "approvals":
      return { kind, count: 1, role: null, teamId: null };
    case "outcome":
      return { kind, allowed: ["delivered"] };
    case "change merged":
      return { kind, checks: true };
    case "limit ahead":
      return { kind, mode: "refuse" };
    default:
      return { kind };
  }
}

/**
 * What can be demanded to be filled: fields of every item, and the project's own that somebody
 * fills.
 */
function demandable({ own }: Vocabulary) {
  const mine = own
    .filter((f) => f.removedAt === null && f.kind !== "computed")
    .map((f) => ({ value: `own.${f.id}`, label: f.name }));
  return [...DEMANDED_FIELDS.map((f) => ({ value: f as string, label: FIELD_WORDS[f] })), ...mine];
}

const MODE_WORDS: Record<LimitMode, string> = {
  ignore: "goes past it",
  warn: "warns",
  ask: "asks why",
  refuse: "stops",
};

/** What a requirement leaves open. */
export function RequirementFields({
  requirement: r,
  vocabulary,
  onChange,
}: {
  requirement: Requirement;
  vocabulary: Vocabulary;
  onChange: (requirement: Requirement) => void;
}) {
  switch (r.kind) {
    case "filled":
      return (
        <Choice
          label="Field"
          value={r.field}
          options={demandable(vocabulary)}
          onChange={(field) => onChange({ ...r, field: field as DemandedField })}
        />
      );
    case "condition":
      return (
        <ConditionEditor
          sameForAll
          condition={r.condition}
          vocabulary={vocabulary}
          onChange={(condition) => onChange({ ...r, condition })}
        />
      );
    case "approvals":
      return (
        <div className="grid grid-cols-[80px_1fr_1fr] gap-2">
          <NumberInput
            label="How many approvals"
            value={r.count}
            min={1}
            disabled={false}
            onCommit={(n) =>
              onChange({ ...r, count: Math.min(20, Math.max(1, Math.round(n ?? 1))) })
            }
          />
          <Choice
            label="Role of who approves"
            value={r.role ?? ""}
            options={[
              { value: "", label: "of anybody" },
              { value: "lead", label: "of leads" },
            ]}
            onChange={(role) => onChange({ ...r, role: role === "lead" ? "lead" : null })}
          />
          <Choice
            label="Team of who approves"
            value={r.teamId ?? ""}
            options={[{ value: "", label: "of any team" }, ...named(vocabulary.teams)]}
            onChange={(id) => onChange({ ...r, teamId: id || null })}
          />
        </div>
      );
    case "outcome":
      return (
        <div className="flex flex-wrap gap-3">
          {OUTCOMES.map((o) => (
            <label key={o} className="inline-flex items-center gap-1.5 text-[13px]">
              <input
                type="checkbox"
                className="accent-(--accent)"
                checked={r.allowed.includes(o)}
                onChange={(e) => {
                  const allowed = OUTCOMES.filter((x) =>
                    x === o ? e.target.checked : r.allowed.includes(x),
                  );
                  if (allowed.length > 0) onChange({ ...r, allowed });
                }}
              />
              {o}
            </label>
          ))}
        </div>
      );
    case "change merged":
      return (
        <label className="inline-flex items-center gap-1.5 text-[13px]">
          <input
            type="checkbox"
            className="accent-(--accent)"
            checked={r.checks}
            onChange={(e) => onChange({ ...r, checks: e.target.checked })}
          />
          and its checks passed
        </label>
      );
    case "limit ahead":
      return (
        <Choice
          label="When the limit ahead is full"
          value={r.mode}
          options={LIMIT_MODES.map((m) => ({ value: m, label: MODE_WORDS[m] }))}
          onChange={(mode) => onChange({ ...r, mode: mode as LimitMode })}
        />
      );
    default:
      return null;
  }
}
