import { commandFor, type BulkDoing } from "@/core/item/bulk/act";
import type { ItemOutcome } from "@/core/item/bulk/job";
import type { Ask } from "@/core/workflow/refusal";
import type { CommandRequest } from "@/core/item/request";
import { isLostRace, isUnreachable, type Transaction } from "@/db/connection";
import { log, traced } from "../../log";
import { actionOf } from "../command";
import { recordCommand } from "../command-key";
import { throughDoor } from "../door";
import { enterItem, type EnteredItem } from "../enter";
import type { Viewer } from "../../people/viewer";
import { Refused } from "../../refused";
import { lastRanked } from "../place";

const FAILED = "Something went wrong with it. Nothing of it was stored; try it by itself.";

/** One item, and the key of what is done to it. */
export interface OneOf {
  itemId: string;
  commandId: string;
  /** Where something is taken back: the command that is. */
  undoes: string | null;
}

/** How it went with one item. */
export interface Went {
  outcome: ItemOutcome;
  sentence: string | null;
  asks: readonly Ask[];
}

/** Which kind of command each act comes to. */
const COMMAND_OF: Record<BulkDoing["kind"], CommandRequest["kind"]> = {
  move: "move",
  set: "edit",
  label: "edit",
  rank: "place",
  block: "block",
  "put under": "put under",
  undo: "undo",
};

const SAME: Went = { outcome: "same", sentence: null, asks: [] };

/**
 * Does an act to one item, through the door as everything else; a refusal leaves the item as it was
 * and stops nobody.
 */
export async function actOn(
  tx: Transaction,
  viewer: Viewer,
  doing: BulkDoing,
  one: OneOf,
): Promise<Went> {
  try {
    return await tx.transaction((part) => actInside(part, viewer, doing, one));
  } catch (error) {
    if (error instanceof Refused) {
      const { sentence, help, asks } = error.refusal;
      return { outcome: "refused", sentence: `${sentence} ${help}`.trim(), asks };
    }
    // The whole part is done again then; anything else is about this one item.
    if (isLostRace(error) || isUnreachable(error)) throw error;
    log.error(
      { itemId: one.itemId, doing: doing.kind, ...traced(error) },
      "an item of a job failed",
    );
    return { outcome: "refused", sentence: FAILED, asks: [] };
  }
}

async function actInside(
  tx: Transaction,
  viewer: Viewer,
  doing: BulkDoing,
  { itemId, commandId, undoes }: OneOf,
): Promise<Went> {
  const entered = await enterItem(tx, viewer, itemId, actionOf(COMMAND_OF[doing.kind]));
  const command = await commandOf(tx, doing, entered, undoes);
  if (command === null) return SAME;
  const about = { itemId, what: `${command.kind} ${itemId}` };
  if (await recordCommand(tx, commandId, viewer.personId, about))
    await throughDoor(tx, viewer, { on: entered, commandId, ask: command });
  return { outcome: "done", sentence: null, asks: [] };
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
