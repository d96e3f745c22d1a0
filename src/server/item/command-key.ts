import { eq, sql } from "drizzle-orm";
import type { Transaction } from "@/db/connection";
import { commandRecord } from "@/db/schema";
import { namedQuery } from "@/db/statement";
import { invalid } from "../refused";

const takeKey = namedQuery("take the key of a command", (reader) =>
  reader
    .insert(commandRecord)
    .values({
      id: sql.placeholder("id"),
      actorId: sql.placeholder("actorId"),
      at: sql.placeholder("at"),
      itemId: sql.placeholder("itemId"),
      what: sql.placeholder("what"),
    })
    .onConflictDoNothing()
    .returning({ id: commandRecord.id }),
);

/**
 * Takes a command's idempotency key. False when it was taken before for the same; a key that was
 * used for something else, or by somebody else, is refused.
 * @param about.what the kind of the command and what it is about
 */
export async function recordCommand(
  tx: Transaction,
  id: string,
  actorId: string | null,
  about: { itemId?: string | null; what: string },
): Promise<boolean> {
  const { itemId = null, what } = about;
  const taken = await takeKey(tx, { id, actorId, at: Date.now(), itemId, what });
  if (taken.length > 0) return true;
  const [known] = await tx.select().from(commandRecord).where(eq(commandRecord.id, id));
  if (
    known.actorId !== actorId ||
    (itemId !== null && known.itemId !== itemId) ||
    (known.what !== null && known.what !== what)
  )
    throw invalid(
      "This command key was used for something else.",
      "Send the command again with a new key.",
    );
  return false;
}
