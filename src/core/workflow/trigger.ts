import { counted } from "@/core/formats/counted";
import type { OutsideFact } from "@/core/item/outside";

/** An event that makes a transition happen by itself. */
export type Trigger =
  | { kind: "change opened" }
  /** The last of the item's open changes was merged. */
  | { kind: "change merged" }
  | { kind: "checks passed" }
  | { kind: "checks failed" }
  | { kind: "review approved" }
  | { kind: "review sent back" }
  | { kind: "test run passed" }
  | { kind: "test run failed" }
  | { kind: "deployed"; environment: string }
  | { kind: "sub-tasks finished" }
  | { kind: "parent finished" }
  | { kind: "requester answered" }
  | { kind: "first assigned" }
  | { kind: "days in state"; days: number }
  | { kind: "date reached"; field: "dueOn" };

export type TriggerKind = Trigger["kind"];
export const TRIGGER_KINDS: readonly TriggerKind[] = [
  "change opened",
  "change merged",
  "checks passed",
  "checks failed",
  "review approved",
  "review sent back",
  "test run passed",
  "test run failed",
  "deployed",
  "sub-tasks finished",
  "parent finished",
  "requester answered",
  "first assigned",
  "days in state",
  "date reached",
];

/** Something that happened to an item and that transitions may wait for. */
export type Occurrence =
  | Exclude<OutsideFact, { kind: "change abandoned" | "checks started" }>
  | { kind: "sub-tasks finished" }
  | { kind: "parent finished"; parentKey: string }
  | { kind: "requester answered" }
  | { kind: "first assigned" }
  | { kind: "days in state"; days: number }
  | { kind: "date reached"; field: "dueOn" };

/** Whether a trigger is about an occurrence. */
export function isTriggeredBy(trigger: Trigger, occurrence: Occurrence): boolean {
  if (trigger.kind !== occurrence.kind) return false;
  if (trigger.kind === "deployed")
    return (
      trigger.environment.toLowerCase() ===
      (occurrence as { environment: string }).environment.toLowerCase()
    );
  if (trigger.kind === "days in state")
    return trigger.days <= (occurrence as { days: number }).days;
  return true;
}

const PLAIN: Record<Exclude<TriggerKind, "deployed" | "days in state" | "date reached">, string> = {
  "change opened": "a change for it is opened",
  "change merged": "its changes are merged",
  "checks passed": "the checks of its changes pass",
  "checks failed": "a check of its changes fails",
  "review approved": "its change is approved in review",
  "review sent back": "its change is sent back in review",
  "test run passed": "its test run passes",
  "test run failed": "its test run fails",
  "sub-tasks finished": "all its sub-tasks are finished",
  "parent finished": "the item above it is finished",
  "requester answered": "its requester answers",
  "first assigned": "it is given to somebody for the first time",
};

/** When a transition happens by itself: "it is deployed to production". */
export function triggerWords(trigger: Trigger): string {
  if (trigger.kind === "deployed") return `it is deployed to ${trigger.environment}`;
  if (trigger.kind === "days in state")
    return `it has been there for ${counted(trigger.days, "day")}`;
  if (trigger.kind === "date reached") return "its due date is reached";
  return PLAIN[trigger.kind];
}

/** What happened, as the history says it: "Its change 41 was merged." */
export function occurrenceWords(occurrence: Occurrence): string {
  switch (occurrence.kind) {
    case "change opened":
      return `Change ${occurrence.change} was opened.`;
    case "change merged":
      return `Change ${occurrence.change} was merged.`;
    case "checks passed":
      return `The checks of change ${occurrence.change} passed.`;
    case "checks failed":
      return `A check of change ${occurrence.change} failed.`;
    case "review approved":
      return `Change ${occurrence.change} was approved in review.`;
    case "review sent back":
      return `Change ${occurrence.change} was sent back in review.`;
    case "test run passed":
      return `Test run ${occurrence.run} passed.`;
    case "test run failed":
      return `Test run ${occurrence.run} failed.`;
    case "deployed":
      return `It was deployed to ${occurrence.environment}.`;
    case "sub-tasks finished":
      return "All its sub-tasks are finished.";
    case "parent finished":
      return `${occurrence.parentKey} above it is finished.`;
    case "requester answered":
      return "Its requester answered.";
    case "first assigned":
      return "It was given to somebody for the first time.";
    case "days in state":
      return `It had been here for ${counted(occurrence.days, "day")}.`;
    case "date reached":
      return "Its due date was reached.";
  }
}
