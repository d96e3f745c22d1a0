import { keepLimits, type HeldLimit } from "@/core/board/keep-limits";
import { limitMode } from "@/core/workflow/decide-move";
import { isRefusal, type Refusal } from "@/core/workflow/refusal";
import type { Transition } from "@/core/workflow/workflow";
import type { ItemCommand } from "./command";
import type { ItemEvent } from "./event";
import type { ItemSnapshot } from "./fields";

/** What a command came to, before limits were asked. */
export interface Decided {
  command: ItemCommand;
  /** Of a move. */
  transition: Transition | undefined;
  events: readonly ItemEvent[];
  after: ItemSnapshot;
}

/**
 * What only puts right that a process changed, or takes an item away, is held back by no limit.
 */
export const asksLimits = ({ kind }: ItemCommand): boolean =>
  kind !== "place in state" && kind !== "withdraw";

/** Whether a reason for going beyond a limit can come with a command. */
const mayGiveReason = (
  command: ItemCommand,
): command is Extract<ItemCommand, { kind: "move" | "edit" | "create" }> =>
  command.kind === "move" || command.kind === "edit" || command.kind === "create";

/**
 * The events of a command that keeps the limits, or goes beyond some: that is said before what does
 * it. A step that is taken back goes beyond no firm limit, whoever does it.
 * @param held the limits that the command changes something for
 */
export function withinLimits(
  { command, transition, events, after }: Decided,
  held: readonly HeldLimit[],
  mayOverride: boolean,
): ItemEvent[] | Refusal {
  const takesReason = mayGiveReason(command);
  const reason = takesReason ? (command.overrideReason?.trim() ?? "") : "";
  const broken = keepLimits({
    held,
    after,
    isReturn: events.some((e) => e.kind === "moved" && e.new.isReturn),
    mode: limitMode(transition),
    mayOverride: mayOverride && takesReason,
    reason,
  });
  if (isRefusal(broken)) return broken;
  if (broken.length === 0) return [...events];
  const [first] = events;
  const { itemId, at, actorId, cause, commandId } = first;
  const about = { itemId, at, actorId, cause, commandId };
  const overrode = broken.map((one) => ({
    ...about,
    kind: "overrode" as const,
    new: one,
    note: reason === "" ? null : reason,
    seq: 0,
  }));
  // An item begins with its creation.
  const [begins, rest] = first.kind === "created" ? [[first], events.slice(1)] : [[], events];
  return [...begins, ...overrode, ...rest].map((event, i) => ({ ...event, seq: first.seq + i }));
}
