import { commandFor, type BulkDoing } from "@/core/item/bulk/act";
import type { ItemOutcome } from "@/core/item/bulk/job";
import type { CommandRequest } from "@/core/item/request";
import type { Transaction } from "@/db/connection";
import type { Viewer } from "../../people/viewer";
import { notFound } from "../../refused";
import { actionOf } from "../command";
import { takeKeys, type CommandKey } from "../command-key";
import { closeDoor, openDoor, passThrough, throughDoor, type Door } from "../door";
import { enterItem, entriesOf, type EnteredItem, type Entry } from "../enter";
import { lastRanked } from "../place";
import { standsAlone } from "../stands-alone";

/*
 * The items of a part of a job take their turns. They are looked for together, and what stands alone
 * is stored together; whatever means something for others is stored before the next one's turn.
 */

/** Which kind of command each act comes to. */
const COMMAND_OF: Record<BulkDoing["kind"], CommandRequest["kind"]> = {
  move: "move",
  set: "edit",
  label: "edit",
  part: "edit",
  rank: "place",
  block: "block",
  "put under": "put under",
  undo: "undo",
};

/** One item, and the key of what is done to it. */
export interface OneOf {
  itemId: string;
  commandId: string;
  /** Where something is taken back: the command that is. */
  undoes: string | null;
}

export interface Turns {
  tx: Transaction;
  viewer: Viewer;
  doing: BulkDoing;
  door: Door;
  /** Whose turn is still to come. */
  left: readonly OneOf[];
  /** What was found of those; null where it may have changed since. */
  found: ReadonlyMap<string, Entry> | null;
  /** The keys of what waits to be stored. */
  keys: CommandKey[];
}

export async function beginTurns(
  tx: Transaction,
  viewer: Viewer,
  doing: BulkDoing,
  ones: readonly OneOf[],
): Promise<Turns> {
  const found = await find(tx, viewer, ones);
  return { tx, viewer, doing, door: openDoor(tx, viewer), left: ones, found, keys: [] };
}

const find = (tx: Transaction, viewer: Viewer, ones: readonly OneOf[]) =>
  entriesOf(
    tx,
    viewer,
    ones.map(({ itemId }) => itemId),
  );

/**
 * The next one's turn.
 * @throws Refused; nothing of it is done then
 */
export async function takeTurn(turns: Turns, one: OneOf): Promise<ItemOutcome> {
  const { tx, viewer, doing, door } = turns;
  turns.left = turns.left.slice(1);
  const on = await enter(turns, one);
  const ask = await commandOf(tx, doing, on, one.undoes);
  if (ask === null) return "same";
  const { itemId, commandId } = one;
  const errand = { on, commandId, ask };
  const key = { id: commandId, itemId, what: `${ask.kind} ${itemId}` };
  if (standsAlone(ask, on)) {
    await passThrough(door, errand);
    turns.keys.push(key);
    turns.found ??= await find(tx, viewer, turns.left);
  } else {
    await closeDoor(door);
    turns.found = null;
    await tx.transaction(async (part) => {
      await takeKeys(part, viewer.personId, [key]);
      await throughDoor(part, viewer, errand);
    });
  }
  return "done";
}

/** Stores what waits for it. */
export async function endTurns({ tx, viewer, door, keys }: Turns): Promise<void> {
  await closeDoor(door);
  await takeKeys(tx, viewer.personId, keys);
}

async function enter({ tx, viewer, doing, found }: Turns, { itemId }: OneOf): Promise<EnteredItem> {
  const action = actionOf(COMMAND_OF[doing.kind]);
  if (!found) return enterItem(tx, viewer, itemId, action);
  const entry = found.get(itemId);
  if (!entry) throw notFound("item");
  return entry(action);
}

async function commandOf(
  tx: Transaction,
  doing: BulkDoing,
  { before }: EnteredItem,
  undoes: string | null,
): Promise<CommandRequest | null> {
  if (doing.kind === "undo") return undoes === null ? null : { kind: "undo", commandId: undoes };
  const atEnd = doing.kind === "rank" && doing.end === "bottom";
  return commandFor(doing, before, atEnd ? await lastRanked(tx, before.stateId) : null);
}
