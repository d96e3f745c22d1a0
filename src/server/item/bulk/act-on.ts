import { setImmediate } from "node:timers/promises";
import type { BulkDoing } from "@/core/item/bulk/act";
import type { ItemOutcome } from "@/core/item/bulk/job";
import type { Ask } from "@/core/workflow/refusal";
import { isLostRace, isUnreachable, type Transaction } from "@/db/connection";
import { log, traced } from "../../log";
import type { Viewer } from "../../people/viewer";
import { Refused } from "../../refused";
import { beginTurns, endTurns, takeTurn, type OneOf } from "./turn";

const FAILED = "Something went wrong with it. Nothing of it was stored; try it by itself.";

/** How it went with one item. */
export interface Went {
  outcome: ItemOutcome;
  sentence: string | null;
  asks: readonly Ask[];
}

/**
 * Does an act to some items one after the other, through the door as everything else, when they are
 * locked and their workflows held. A refusal leaves its item as it was and stops nobody. Where
 * something goes wrong with them together, each is done by itself.
 */
export async function actOn(
  tx: Transaction,
  viewer: Viewer,
  doing: BulkDoing,
  ones: readonly OneOf[],
): Promise<Went[]> {
  try {
    return await tx.transaction((part) => actTogether(part, viewer, doing, ones));
  } catch (error) {
    forwardsLost(error);
    log.error({ doing: doing.kind, ...traced(error) }, "a part of a job failed");
  }
  const went: Went[] = [];
  for (const one of ones) went.push(await actApart(tx, viewer, doing, one));
  return went;
}

/** The whole part is done again then; anything else is about these items. */
function forwardsLost(error: unknown): void {
  if (isLostRace(error) || isUnreachable(error)) throw error;
}

async function actTogether(
  tx: Transaction,
  viewer: Viewer,
  doing: BulkDoing,
  ones: readonly OneOf[],
): Promise<Went[]> {
  const turns = await beginTurns(tx, viewer, doing, ones);
  const went: Went[] = [];
  for (const one of ones) {
    // What was found together is decided without a wait: others of this process get their turn too.
    await setImmediate();
    went.push(
      await takeTurn(turns, one).then(
        (outcome) => ({ outcome, sentence: null, asks: [] }),
        wentWrong,
      ),
    );
  }
  await endTurns(turns);
  return went;
}

function wentWrong(error: unknown): Went {
  if (!(error instanceof Refused)) throw error;
  const { sentence, help, asks } = error.refusal;
  return { outcome: "refused", sentence: `${sentence} ${help}`.trim(), asks };
}

async function actApart(
  tx: Transaction,
  viewer: Viewer,
  doing: BulkDoing,
  one: OneOf,
): Promise<Went> {
  try {
    const [went] = await tx.transaction((part) => actTogether(part, viewer, doing, [one]));
    return went;
  } catch (error) {
    forwardsLost(error);
    log.error(
      { itemId: one.itemId, doing: doing.kind, ...traced(error) },
      "an item of a job failed",
    );
    return { outcome: "refused", sentence: FAILED, asks: [] };
  }
}
