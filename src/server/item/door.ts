import { asksLimits } from "@/core/item/within-limits";
import type { ItemSnapshot } from "@/core/item/fields";
import type { Transaction } from "@/db/connection";
import type { Principal } from "../people/viewer";
import { consequences } from "./consequences";
import { decideErrand, type Passed } from "./decide-errand";
import { enterAlong, lockInOrder } from "./enter";
import type { Entered, Errand } from "./errand";
import { followDependencies } from "./follow-dependencies";
import { emptyLimitBook, type LimitBook } from "./limit-book";
import { standsAlone } from "./stands-alone";
import { storeEvents } from "./store";

/*
 * The one door that every change of an item goes through, whoever asks for it: people, triggers,
 * verdicts, imports, other programs, the process itself. The way is straight: an item is entered
 * (`enter.ts`: rights and locks), what rules may need is gathered (`gather.ts`), the core decides,
 * what it came to is held against the limits (`keep-limits.ts`), the events are stored (`store.ts`),
 * and what follows is done or comes in behind as further errands (`consequences.ts`). Of errands
 * that come one after the other those that stand alone are stored together. All of it happens in the
 * caller's transaction, or nothing.
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
  const door = openDoor(tx, by);
  const results: ItemSnapshot[] = [];
  for (const errand of errands) results.push(await passThrough(door, errand));
  await closeDoor(door);
  return results;
}

/** So many are stored together at most: a statement is to stay small. */
const MOST_HELD = 50;

/** A door that errands go through one after the other, in one transaction. */
export interface Door {
  tx: Transaction;
  by: Principal;
  /** What was decided and is not stored yet. */
  held: Passed[];
  book: LimitBook;
  /** Whether the book knows what everything counts for that is held. */
  weighed: boolean;
}

/** Opens a door; what goes through it is not stored before it is closed. */
export const openDoor = (tx: Transaction, by: Principal): Door => ({
  tx,
  by,
  held: [],
  book: emptyLimitBook(),
  weighed: true,
});

/**
 * Takes an errand through a door that is open. Where it stands alone, what it came to is stored
 * later, with that of others; everything else finds what was before it stored.
 * @returns the item after it
 * @throws Refused with the core's refusal; nothing of it is done then
 */
export async function passThrough(door: Door, errand: Errand): Promise<ItemSnapshot> {
  const { tx, by } = door;
  if (door.held.some(({ after }) => after.id === errand.on.itemId)) await closeDoor(door);
  const entered = await enteredOf(tx, errand);
  const alone = standsAlone(errand.ask, entered);
  if (!alone || !(door.weighed || errand.ask.kind === "prepared")) await closeDoor(door);
  const passed = await decideErrand(tx, by, { errand, entered, book: door.book });
  door.held.push(passed);
  door.weighed &&= asksLimits(passed.command);
  if (!alone || door.held.length >= MOST_HELD) await closeDoor(door);
  return passed.after;
}

/** Stores what went through a door, and does what follows from it. */
export async function closeDoor(door: Door): Promise<void> {
  const { tx, by, held } = door;
  const stored = held.splice(0);
  await storeAll(tx, stored);
  door.book.unstored.clear();
  if (!door.weighed) startAnew(door);
  for (const passed of stored)
    // What follows from what follows is for triggers, which count how long a chain is; only what
    // waits for it hears of it.
    for await (const further of consequences(tx, by, passed)) {
      startAnew(door);
      const followed = await passAlong(tx, by, further);
      for await (const last of followDependencies(tx, by, followed)) await passAlong(tx, by, last);
    }
}

/** What changed beside those errands is not in the book. */
function startAnew(door: Door): void {
  door.book = emptyLimitBook();
  door.weighed = true;
}

/** Takes what follows from an errand through the door. */
async function passAlong(tx: Transaction, by: Principal, errand: Errand): Promise<Passed> {
  const entered = await enteredOf(tx, errand);
  const passed = await decideErrand(tx, by, { errand, entered, book: emptyLimitBook() });
  await storeAll(tx, [passed]);
  return passed;
}

const enteredOf = (tx: Transaction, { on }: Errand): Entered | Promise<Entered> =>
  "before" in on ? on : enterAlong(tx, on);

const storeAll = (tx: Transaction, all: readonly Passed[]): Promise<void> =>
  storeEvents(
    tx,
    all.map(({ entered, events, after, errand }) => ({
      before: entered.before,
      events,
      after,
      depth: errand.made?.depth,
      setOffBy: errand.made?.setOffBy,
    })),
  );
