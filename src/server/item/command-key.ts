import { eq, sql } from "drizzle-orm";
import type { Transaction } from "@/db/connection";
import { commandRecord } from "@/db/schema";
import { namedQuery, namedSql } from "@/db/statement";
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

/** A key with what it is taken for. */
export interface CommandKey {
  id: string;
  itemId: string;
  /** The kind of the command and what it is about. */
  what: string;
}

/**
 * Takes some keys at once.
 * @throws Error when one of them was taken before
 */
export async function takeKeys(
  tx: Transaction,
  actorId: string | null,
  keys: readonly CommandKey[],
): Promise<void> {
  if (keys.length === 0) return;
  const [ids, items] = [keys.map(({ id }) => id), keys.map(({ itemId }) => itemId)];
  await TAKE_KEYS(tx, [actorId, new Date(), ids, items, keys.map(({ what }) => what)]);
}

const TAKE_KEYS = namedSql(
  "take the keys of commands",
  `insert into command_record (id, actor_id, at, item_id, what)
  select told.id, $1, $2, told.item_id, told.what
  from unnest($3::uuid[], $4::uuid[], $5::text[]) as told (id, item_id, what)`,
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
