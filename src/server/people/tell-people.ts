import { sql } from "drizzle-orm";
import type { Reader } from "@/db/connection";

/** The channel on which open pages of a person hear that something of theirs changed. */
export const PERSON_CHANNEL = "zigzag_person";

/** Tells the open pages of some people that their alerts changed, once it is stored. */
export async function tellPeople(reader: Reader, personIds: readonly string[]): Promise<void> {
  for (const id of new Set(personIds))
    await reader.execute(sql`select pg_notify(${PERSON_CHANNEL}, ${id})`);
}
