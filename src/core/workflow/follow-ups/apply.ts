import { WAITS } from "@/core/item/blocker";
import type { Dependency, ItemChange } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import type { OwnValue } from "@/core/item/own-field";
import { same } from "../same";
import { isInProgress } from "../state";
import type { ChangedField, ChangingItem, FollowUpContext } from "./kind";
import { followUpKindOf, type FollowUp } from "./table";

export const NO_FOLLOW_UP_CONTEXT: FollowUpContext = {
  actorId: null,
  previousAssigneeId: null,
  leastLoaded: {},
  nextInTurn: {},
  newCommentId: () => {
    throw new Error("no comment was expected");
  },
  waitsFor: [],
  newBlockId: () => {
    throw new Error("no blocker was expected");
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
  const changing = new Changing(item, context);
  for (const { kind, ...parameters } of followUps)
    followUpKindOf(kind).change?.(parameters, changing, context);
  return changing.changes;
}

class Changing implements ChangingItem {
  readonly changes: ItemChange[] = [];
  /** Ids of the items that it is blocked by. */
  private readonly blockedBy: Set<string>;

  constructor(
    public now: ItemSnapshot,
    private readonly ids: Pick<FollowUpContext, "newCommentId" | "newBlockId">,
  ) {
    this.blockedBy = new Set(now.openBlockers.flatMap((b) => b.dependencyId ?? []));
  }

  set(field: ChangedField, value: unknown): void {
    const old = this.now[field];
    if (old === value) return;
    this.changes.push({ kind: "changed", field, old, new: value });
    this.now = { ...this.now, [field]: value };
  }

  setOwn(id: string, value: OwnValue | null): void {
    const old = this.now.own[id] ?? null;
    if (same(old, value)) return;
    this.changes.push({ kind: "own changed", field: id, old, new: value });
    const { [id]: _, ...others } = this.now.own;
    this.now = { ...this.now, own: value === null ? others : { ...others, [id]: value } };
  }

  comment(text: string): void {
    this.changes.push({
      kind: "commented",
      new: { commentId: this.ids.newCommentId(), body: text },
    });
  }

  block(by: Dependency): void {
    if (this.blockedBy.has(by.itemId) || !isInProgress(this.now.stateKind)) return;
    this.blockedBy.add(by.itemId);
    const blockId = this.ids.newBlockId();
    this.changes.push({
      kind: "blocked",
      new: { blockId, cause: WAITS, waitingFor: null, dependency: by },
    });
  }
}
