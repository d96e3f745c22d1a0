import type { FlowRecord } from "@/core/item/flow-record";
import type { block, timeboxMembership, flowPassage, stay } from "@/db/schema";

/** What is stored of an item's flow. */
export interface FlowRows {
  stays: (typeof stay.$inferInsert)[];
  blocks: (typeof block.$inferInsert)[];
  passages: (typeof flowPassage.$inferInsert)[];
  memberships: (typeof timeboxMembership.$inferInsert)[];
}

/** The rows of an item's flow record. */
export function flowRows(itemId: string, record: FlowRecord): FlowRows {
  return {
    stays: record.stays.map(({ from: enteredAt, to: leftAt, ...rest }) => ({
      itemId,
      enteredAt,
      leftAt,
      ...rest,
    })),
    blocks: record.blocks.map(({ blockId: id, from: fromAt, to: liftedAt, ...rest }) => ({
      id,
      itemId,
      fromAt,
      liftedAt,
      ...rest,
    })),
    passages: record.passages.map((passage) => ({
      itemId,
      outcome: null,
      elapsedMs: null,
      sinceLastMs: null,
      times: null,
      ...passage,
    })),
    memberships: record.memberships.map(({ from: fromAt, to: toAt, ...rest }) => ({
      itemId,
      fromAt,
      toAt,
      ...rest,
    })),
  };
}
