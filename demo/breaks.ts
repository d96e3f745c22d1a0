import type { LimitBreak } from "@/core/board/limit";
import type { ItemEvent } from "@/core/item/event";
import { replay } from "@/core/item/snapshot";
import type { StateId } from "@/core/workflow/state";
import type { Workflow } from "@/core/workflow/workflow";
import type { DemoItem } from "./history";
import type { DemoColumn } from "./projects";

const REASONS = [
  "The storm took the other tester.",
  "The harbour authority waits for it.",
  "Two are as good as done.",
  "The night boat sails with it or without passengers.",
];

/**
 * The histories with what went beyond the limits of the columns said where it happened: found by
 * counting through them, as the product counts.
 */
export function withBreaks(
  items: readonly DemoItem[],
  workflow: Workflow,
  columns: readonly DemoColumn[],
): DemoItem[] {
  const limits = new Map(
    columns.map((column) => [workflow.states.find((s) => s.name === column.state)!.id, column]),
  );
  const counts = new Map<StateId, number>();
  const add = (stateId: StateId, n: number) => counts.set(stateId, (counts.get(stateId) ?? 0) + n);
  const broken = new Map<ItemEvent, LimitBreak>();
  const counted = items.filter(
    ({ snapshot }) => snapshot.typeId !== "task" && snapshot.classOfService !== "expedite",
  );
  const events = counted.flatMap((item) => item.events).sort((a, b) => a.at - b.at);
  for (const event of events) {
    if (event.kind === "created") add(event.new.stateId, 1);
    if (event.kind !== "moved") continue;
    add(event.old.stateId, -1);
    add(event.new.stateId, 1);
    const column = limits.get(event.new.stateId);
    const wouldHold = counts.get(event.new.stateId)!;
    if (column?.max === undefined || wouldHold <= column.max) continue;
    broken.set(event, {
      columnId: event.new.stateId,
      columnName: column.state,
      side: "maximum",
      limit: column.max,
      wouldHold,
      firm: column.maxFirm ?? false,
      unit: "items",
    });
  }
  return items.map((item) => (item.events.some((e) => broken.has(e)) ? told(item, broken) : item));
}

/** An item with what its moves went beyond; a firm limit with a reason of the lead. */
function told(item: DemoItem, broken: ReadonlyMap<ItemEvent, LimitBreak>): DemoItem {
  const events = item.events
    .flatMap((event): ItemEvent[] => {
      const limit = broken.get(event);
      if (!limit) return [event];
      const { itemId, at, cause, commandId, seq } = event;
      const note = limit.firm ? REASONS[(seq + limit.wouldHold) % REASONS.length] : null;
      const actorId = limit.firm ? "ines" : event.actorId;
      const overrode = { itemId, at, cause, commandId, seq, actorId, new: limit, note } as const;
      return [
        { ...overrode, kind: "overrode" },
        { ...event, actorId },
      ];
    })
    .map((event, i) => ({ ...event, seq: i + 1 }));
  return { ...item, events, snapshot: replay(events) };
}
