import { decide } from "@/core/item/decide";
import type { ItemSnapshot } from "@/core/item/fields";
import { isRefusal } from "@/core/workflow/refusal";
import type { Transaction } from "@/db/connection";
import type { Principal } from "../people/viewer";
import { Refused } from "../refused";
import { consequences, type Passed } from "./consequences";
import { enterAlong, lockInOrder } from "./enter";
import type { Errand } from "./errand";
import { followDependencies } from "./follow-dependencies";
import { gather } from "./gather";
import { keepItemLimits } from "./keep-limits";
import { decideNaming } from "./naming";
import { storeEvents } from "./store";

/*
 * The one door that every change of an item goes through, whoever asks for it: people, triggers,
 * verdicts, imports, other programs, the process itself. The way is straight: an item is entered
 * (`enter.ts`: rights and locks), what rules may need is gathered (`gather.ts`), the core decides,
 * what it came to is held against the limits (`keep-limits.ts`), the events are stored (`store.ts`), and what follows is done or comes in behind as further
 * errands (`consequences.ts`). All of it happens in the caller's transaction, or nothing.
 */

/**
 * Takes one errand through the door.
 * @returns the item after it; what was refused and may be is as it was before
 * @throws Refused with the core's refusal
 */
export async function throughDoor(
  tx: Transaction,
  by: Principal,
  errand: Errand,
): Promise<ItemSnapshot> {
  const [after] = await allThroughDoor(tx, by, [errand]);
  return after;
}

/** Takes errands through the door, one after the other; their items are locked first. */
export async function allThroughDoor(
  tx: Transaction,
  by: Principal,
  errands: readonly Errand[],
): Promise<ItemSnapshot[]> {
  if (errands.length > 1)
    await lockInOrder(
      tx,
      errands.map((e) => e.on.itemId),
    );
  const results: ItemSnapshot[] = [];
  for (const errand of errands) {
    const passed = await pass(tx, by, errand);
    results.push(passed.after);
    // What follows from what follows is for triggers, which count how long a chain is; only what
    // waits for it hears of it.
    for await (const further of consequences(tx, by, passed)) {
      const followed = await pass(tx, by, further);
      for await (const last of followDependencies(tx, by, followed)) await pass(tx, by, last);
    }
  }
  return results;
}

async function pass(tx: Transaction, by: Principal, errand: Errand): Promise<Passed> {
  const entered = "before" in errand.on ? errand.on : await enterAlong(tx, errand.on);
  const { before, access } = entered;
  const { command, transition, contextWith } = await gather(tx, by, entered, errand);
  const decided = await decideNaming(tx, access.project.id, (naming) =>
    decide(before, command, contextWith(naming)),
  );
  const events = isRefusal(decided)
    ? decided
    : await keepItemLimits(tx, by, entered, { command, transition, events: decided });
  const passed = { errand, entered, command, transition };
  if (!isRefusal(events))
    return { ...passed, events, after: await storeEvents(tx, before, events, errand.made?.depth) };
  if (errand.ifRefused !== "leave" || !before) throw new Refused(events);
  return { ...passed, events: [], after: before };
}
