import { decide } from "@/core/item/decide";
import type { ItemCommand } from "@/core/item/command";
import type { ItemEvent } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import { applyEvent } from "@/core/item/snapshot";
import { isRefusal } from "@/core/workflow/refusal";
import type { Transition } from "@/core/workflow/workflow";
import type { Transaction } from "@/db/connection";
import type { Principal } from "../people/viewer";
import { Refused } from "../refused";
import type { Entered, Errand } from "./errand";
import { gather } from "./gather";
import { keepItemLimits } from "./keep-limits";
import type { LimitBook } from "./limit-book";
import { decideNaming } from "./naming";

/** What the core made of an errand. */
export interface Passed {
  errand: Errand;
  entered: Entered;
  command: ItemCommand;
  /** Of a move. */
  transition: Transition | undefined;
  /** None where it changed nothing, or was refused and the item left. */
  events: readonly ItemEvent[];
  after: ItemSnapshot;
}

/**
 * Has the core decide on an errand, and holds what it came to against the limits. Nothing of it is
 * stored.
 * @throws Refused with the core's refusal, unless the errand leaves the item then
 */
export async function decideErrand(
  tx: Transaction,
  by: Principal,
  { errand, entered, book }: { errand: Errand; entered: Entered; book: LimitBook },
): Promise<Passed> {
  const { before, access } = entered;
  const { command, transition, contextWith } = await gather(tx, by, entered, errand);
  const decided = await decideNaming(tx, access.project.id, (naming) =>
    decide(before, command, contextWith(naming)),
  );
  const asked = { command, transition };
  const events = isRefusal(decided)
    ? decided
    : await keepItemLimits({ tx, by, entered, book, asked: { ...asked, events: decided } });
  const passed = { errand, entered, ...asked };
  if (!isRefusal(events))
    return { ...passed, events, after: events.reduce<ItemSnapshot | null>(applyEvent, before)! };
  if (errand.ifRefused !== "leave" || !before) throw new Refused(events);
  return { ...passed, events: [], after: before };
}
