import type { ItemEvent } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import { checksOf } from "@/core/item/outside";
import { isTriggeredBy, type Occurrence } from "./trigger";
import { transitionsFrom, type Transition, type Workflow } from "./workflow";

/**
 * What the events of a command mean for the triggers of the item itself. What they mean for the
 * items above and below it is for whoever can read those.
 * @param after the item after the events
 * @param assignedBefore whether anybody ever had the item before them
 */
export function occurrencesOf(
  events: readonly ItemEvent[],
  after: ItemSnapshot,
  assignedBefore: boolean,
): Occurrence[] {
  return events.flatMap((event): Occurrence[] => {
    if (
      event.kind === "changed" &&
      event.field === "assigneeId" &&
      event.new !== null &&
      !assignedBefore
    )
      return [{ kind: "first assigned" }];
    if (event.kind === "commented" && event.cause === "requester")
      return [{ kind: "requester answered" }];
    if (event.kind !== "reported") return [];
    const fact = event.new;
    // One change of several decides nothing alone.
    if (fact.kind === "change merged")
      return after.outside.changes.some((c) => c.status === "open") ? [] : [fact];
    if (fact.kind === "checks passed")
      return checksOf(after.outside.changes) === "passed" ? [fact] : [];
    switch (fact.kind) {
      case "change updated":
      case "change abandoned":
      case "checks started":
      case "deployed no more":
        return [];
      default:
        return [fact];
    }
  });
}

/**
 * The transition that an occurrence makes, out of where the item is; the first in the order of its
 * moves.
 */
export function triggeredTransition(
  workflow: Workflow,
  item: Pick<ItemSnapshot, "stateId">,
  occurrence: Occurrence,
): Transition | undefined {
  return transitionsFrom(workflow, item.stateId).find((t) =>
    t.triggers.some((trigger) => isTriggeredBy(trigger, occurrence)),
  );
}

/** Whether any transition of a process is made by what happens in one way. */
export const waitsFor = (workflow: Workflow, kind: Occurrence["kind"]): boolean =>
  workflow.transitions.some(({ triggers }) => triggers.some((trigger) => trigger.kind === kind));

/** How many moves may follow from one another before somebody has to look. */
export const LONGEST_CHAIN = 5;
