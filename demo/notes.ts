import { DAY, type Instant } from "@/core/calendar/instant";
import type { Transaction } from "@/db/connection";
import * as table from "@/db/schema";
import type { DemoItem } from "./history";

/** So many of the lines are written already. */
const WRITTEN = 3;

/** What the lead has written of the next release so far: some lines, and one that is not for outside. */
export async function loadNotes(
  tx: Transaction,
  releaseId: string,
  items: readonly DemoItem[],
  now: Instant,
): Promise<void> {
  const inIt = items
    .map(({ snapshot }) => snapshot)
    .filter((one) => one.releaseId === releaseId && one.typeId === "story");
  const by = { releaseId, byId: "ines", at: now - 2 * DAY };
  const rows = inIt.slice(0, WRITTEN).map(({ id, title }) => ({
    ...{ ...by, itemId: id, internal: false },
    words: `You can ${title[0].toLowerCase()}${title.slice(1)}.`,
  }));
  const last = inIt.at(-1);
  if (last && inIt.length > WRITTEN)
    rows.push({ ...by, itemId: last.id, words: "", internal: true });
  if (rows.length > 0) await tx.insert(table.releaseNote).values(rows);
}
