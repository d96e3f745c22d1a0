"use client";
import { CommitText, CommitNumber } from "@/ui/kit/commit-input";
import type { Trigger, TriggerKind } from "@/core/workflow/trigger";

export const TRIGGER_TITLES: Record<TriggerKind, string> = {
  "change opened": "a change is opened",
  "change merged": "its changes are merged",
  "checks passed": "its checks pass",
  "checks failed": "a check fails",
  "review approved": "its change is approved in review",
  "review sent back": "its change is sent back in review",
  "test run passed": "its test run passes",
  "test run failed": "its test run fails",
  deployed: "it is deployed",
  "sub-tasks finished": "all sub-tasks are finished",
  "parent finished": "the item above is finished",
  "requester answered": "its requester answers",
  "first assigned": "it is first given to somebody",
  "days in state": "it has been there for some days",
  "date reached": "its due date is reached",
};

/** A trigger of a kind, as it begins. */
export function newTrigger(kind: TriggerKind): Trigger {
  if (kind === "deployed") return { kind, environment: "production" };
  if (kind === "days in state") return { kind, days: 14 };
  if (kind === "date reached") return { kind, field: "dueOn" };
  return { kind };
}

/** What a trigger leaves open. */
export function TriggerFields({
  trigger: t,
  onChange,
}: {
  trigger: Trigger;
  onChange: (trigger: Trigger) => void;
}) {
  if (t.kind === "deployed")
    return (
      <CommitText
        label="Environment"
        value={t.environment}
        disabled={false}
        required
        onCommit={(environment) => onChange({ ...t, environment })}
      />
    );
  if (t.kind === "days in state")
    return (
      <CommitNumber
        label="Days"
        value={t.days}
        min={0.01}
        step="any"
        disabled={false}
        onCommit={(days) => days && onChange({ ...t, days: Math.min(3_650, days) })}
      />
    );
  return null;
}
