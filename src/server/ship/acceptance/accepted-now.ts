import type { Accepted } from "@/core/ship/acceptance/enough";
import type { Reader } from "@/db/connection";
import { acceptanceOf } from "./rows";

/** To how many an item is shown, and how many of them accept it as it is now. */
export async function acceptedNow(reader: Reader, itemId: string): Promise<Accepted> {
  const { asked, given } = (await acceptanceOf(reader, [itemId])).get(itemId)!;
  return { asked, given };
}
