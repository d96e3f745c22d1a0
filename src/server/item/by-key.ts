import type { Action } from "@/core/people/authorise";
import type { Reader, Transaction } from "@/db/connection";
import { item } from "@/db/schema";
import type { Principal } from "../people/viewer";
import { notFound } from "../refused";
import { enterItem, seeItem, type EnteredItem } from "./enter";
import { hasKeyAmong } from "./key";

/** The id of the item that a key leads to, whoever may see it. */
async function idOf(reader: Reader, key: string): Promise<string> {
  const [row] = await reader
    .select({ id: item.id })
    .from(item)
    .where(hasKeyAmong([key]));
  if (!row) throw notFound("item");
  return row.id;
}

/** Enters an item by its key, for an action. @throws Refused as `enterItem` does */
export const enterByKey = async (
  tx: Transaction,
  by: Principal,
  key: string,
  action: Action,
): Promise<EnteredItem> => enterItem(tx, by, await idOf(tx, key), action);

/** The same for whoever only looks at it. @throws Refused as `seeItem` does */
export const seeByKey = async (
  reader: Reader,
  by: Principal,
  key: string,
  action: Action,
): Promise<EnteredItem> => seeItem(reader, by, await idOf(reader, key), action);
