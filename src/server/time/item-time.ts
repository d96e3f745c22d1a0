import { and, desc, eq, isNull } from "drizzle-orm";
import type { ItemTime } from "@/core/time/item-time";
import { timeSums } from "@/core/time/sums";
import type { Reader } from "@/db/connection";
import { person, timeEntry } from "@/db/schema";
import { hoursOf } from "../alerts/hours";
import { timeOfTree } from "../item/around";
import { seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";

/** What an item that somebody may see says of the time that it takes, and what is under it. */
export async function readItemTime(
  reader: Reader,
  viewer: Viewer,
  itemId: string,
): Promise<ItemTime> {
  const [entries, tree, hours] = await Promise.all([
    reader
      .select({
        entryId: timeEntry.id,
        personId: timeEntry.personId,
        who: person.name,
        on: timeEntry.on,
        minutes: timeEntry.minutes,
        note: timeEntry.note,
        at: timeEntry.at,
      })
      .from(timeEntry)
      .innerJoin(person, eq(person.id, timeEntry.personId))
      .where(and(eq(timeEntry.itemId, itemId), isNull(timeEntry.goneAt)))
      .orderBy(desc(timeEntry.on), desc(timeEntry.at)),
    timeOfTree(reader, itemId, (of) => seesItem(reader, viewer, of)),
    hoursOf(reader, [viewer.personId]),
  ]);
  return {
    entries,
    own: timeSums(tree.slice(0, 1)),
    all: tree.length > 1 ? { ...timeSums(tree), items: tree.length - 1 } : null,
    hoursADay: hours(viewer.personId).hoursADay,
  };
}
