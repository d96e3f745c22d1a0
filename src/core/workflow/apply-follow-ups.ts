import type { ItemChange } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import type { OwnValue } from "@/core/item/own-field";
import { same } from "./same";
import type { FollowUp, NewAssignee } from "./follow-up";

export interface FollowUpContext {
  actorId: string | null;
  /** Who had the item before its present assignee; null when nobody had. */
  previousAssigneeId: string | null;
  /**
   * By team: the member with the fewest items in progress, and the one whose turn it is. Null for a
   * team without people.
   */
  leastLoaded: Record<string, string | null>;
  nextInTurn: Record<string, string | null>;
  newCommentId: () => string;
}

export const NO_FOLLOW_UP_CONTEXT: FollowUpContext = {
  actorId: null,
  previousAssigneeId: null,
  leastLoaded: {},
  nextInTurn: {},
  newCommentId: () => {
    throw new Error("no comment was expected");
  },
};

/**
 * What a transition's follow-ups change on the item itself, in their order; what changes nothing
 * gives no event. Those that touch other items (sub-tasks, duplicates) and the place in the order
 * are for whoever stores the move.
 */
export function followUpChanges(
  followUps: readonly FollowUp[],
  item: ItemSnapshot,
  context: FollowUpContext,
): ItemChange[] {
  const changes: ItemChange[] = [];
  let now = item;
  const setOwn = (id: string, value: OwnValue | null) => {
    const old = now.own[id] ?? null;
    if (same(old, value)) return;
    changes.push({ kind: "own changed", field: id, old, new: value });
    const { [id]: _, ...others } = now.own;
    now = { ...now, own: value === null ? others : { ...others, [id]: value } };
  };
  const set = (field: Extract<ItemChange, { kind: "changed" }>["field"], value: unknown) => {
    const old = now[field];
    if (old === value) return;
    changes.push({ kind: "changed", field, old, new: value });
    now = { ...now, [field]: value };
  };
  for (const followUp of followUps) {
    if (followUp.kind === "set field" && followUp.change.field === "own")
      setOwn(followUp.change.fieldId, followUp.change.value);
    else if (followUp.kind === "set field")
      set(
        followUp.change.field as Exclude<typeof followUp.change.field, "own">,
        followUp.change.value,
      );
    else if (followUp.kind === "assign") {
      const assignee = newAssignee(followUp.to, now, context);
      // Without anybody to give it to it stays with whoever has it.
      if (assignee !== undefined) set("assigneeId", assignee);
    } else if (followUp.kind === "set outcome") set("outcome", followUp.outcome);
    else if (followUp.kind === "comment")
      changes.push({
        kind: "commented",
        new: { commentId: context.newCommentId(), body: followUp.text },
      });
  }
  return changes;
}

/** Whom an item goes to; undefined where there is nobody to give it to. */
function newAssignee(
  to: NewAssignee,
  item: ItemSnapshot,
  context: FollowUpContext,
): string | null | undefined {
  switch (to.kind) {
    case "person":
      return to.personId;
    case "nobody":
      return null;
    case "mover":
      return context.actorId ?? undefined;
    case "creator":
      return item.createdBy ?? undefined;
    case "reviewer":
      return item.reviewerId ?? undefined;
    case "previous assignee":
      return context.previousAssigneeId ?? undefined;
    case "least loaded":
      return context.leastLoaded[to.teamId] ?? undefined;
    case "in turn":
      return context.nextInTurn[to.teamId] ?? undefined;
  }
}
