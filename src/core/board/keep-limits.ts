import type { ItemSnapshot } from "@/core/item/fields";
import { counted } from "@/core/formats/counted";
import { refuse, type Refusal } from "@/core/workflow/refusal";
import type { LimitMode } from "@/core/workflow/requirement";
import type { CoveringLimit } from "./limited";
import type { LimitBreak } from "./limit";

/** A limit with what counts against it, and what an item counts for before and after a change. */
export interface HeldLimit {
  limit: CoveringLimit;
  count: number;
  was: number;
  becomes: number;
}

export interface LimitQuestion {
  held: readonly HeldLimit[];
  after: ItemSnapshot;
  /** Whether the change sends the item back. */
  isReturn: boolean;
  /** What a transition says of limits ahead of it; null where it says nothing. */
  mode: LimitMode | null;
  /** Whether the person may go beyond a firm limit with a reason, and the reason they gave. */
  mayOverride: boolean;
  reason: string;
}

/**
 * Whether a change keeps the limits. A change that makes nothing worse breaks none: leaving what is
 * over its maximum is always allowed, and so is entering what is under its minimum. A minimum keeps
 * nothing from being finished or sent back.
 * @returns the refusal, or the limits that it goes beyond: firm ones with a reason, and advice
 */
export function keepLimits(asked: LimitQuestion): Refusal | LimitBreak[] {
  const { held, mode, mayOverride, reason } = asked;
  const over = held.flatMap((one) => overMaximum(one, asked.after));
  const under = held.flatMap((one) => underMinimum(one, asked));
  const stopping = over.flatMap(({ broken, passes }) => (passes ? [] : [broken]));
  if (mode === "refuse" && stopping.length > 0) return refuseLimit(stopping[0], false);
  const firm = mode === "ignore" ? [] : [...stopping, ...under].filter(({ firm: is }) => is);
  if (firm.length > 0 && !(mayOverride && reason)) return refuseLimit(firm[0], mayOverride);
  if (mode === "ask" && stopping.length > 0 && !reason) return refuseLimit(stopping[0], true);
  return [...over.map(({ broken }) => broken), ...under.filter(({ firm: is }) => is)];
}

function overMaximum(
  { limit, count, was, becomes }: HeldLimit,
  { classOfService, dueOn }: ItemSnapshot,
): { broken: LimitBreak; passes: boolean }[] {
  const wouldHold = count + becomes - was;
  if (limit.max === null || becomes <= was || wouldHold <= limit.max) return [];
  const passes = limit.fixedDatePasses && classOfService === "fixed date" && dueOn !== null;
  const broken = breakOf(limit, { side: "maximum", limit: limit.max, firm: limit.maxFirm });
  return [{ broken: { ...broken, wouldHold }, passes }];
}

function underMinimum(
  { limit, count, was, becomes }: HeldLimit,
  { after, isReturn }: LimitQuestion,
): LimitBreak[] {
  const wouldHold = count + becomes - was;
  if (limit.min === null || becomes >= was || wouldHold >= limit.min) return [];
  if (after.stateKind === "finished" || isReturn) return [];
  const broken = breakOf(limit, { side: "minimum", limit: limit.min, firm: limit.minFirm });
  return [{ ...broken, wouldHold }];
}

const breakOf = (
  { id, name, unit }: CoveringLimit,
  broken: Pick<LimitBreak, "side" | "limit" | "firm">,
): Omit<LimitBreak, "wouldHold"> => ({ columnId: id, columnName: name, unit, ...broken });

/** The refusal for a limit; whoever may go beyond it is asked for a reason in place. */
export function refuseLimit(broken: LimitBreak, mayOverride: boolean): Refusal {
  const { columnName, limit, side } = broken;
  const amount = limitAmount(broken, limit);
  const sentence =
    side === "maximum"
      ? `${columnName} takes ${amount} at most.`
      : `${columnName} keeps ${amount} at least.`;
  const help =
    side === "maximum"
      ? "Finish or move on one of those first" +
        (mayOverride
          ? ", or give a reason why this one goes beyond the limit."
          : ", or ask a lead.")
      : "Pull another item into it first" +
        (mayOverride ? ", or give a reason why it may run short." : ", or ask a lead.");
  return refuse(
    "limit",
    sentence,
    help,
    mayOverride ? [{ field: "overrideReason", label: "Why beyond the limit?" }] : [],
  );
}

/** "5 items", "a size of 20". */
export const limitAmount = (
  { unit = "items" }: Pick<LimitBreak, "unit">,
  amount: number,
): string =>
  unit === "items"
    ? counted(amount, "item")
    : `a size of ${amount.toLocaleString("en", { maximumFractionDigits: 1 })}`;
