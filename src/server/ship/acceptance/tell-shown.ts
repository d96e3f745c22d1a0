import { eq } from "drizzle-orm";
import type { Transaction } from "@/db/connection";
import { item, person, shownItem } from "@/db/schema";
import { keepAlerts } from "../../alerts/keep";
import type { ShowingRow } from "./rows";

/** Tells somebody with an account that work is shown to them, or still waits for their word. */
export async function tellShown(tx: Transaction, row: ShowingRow, now: number): Promise<void> {
  if (row.personId === null || row.personId === row.askedBy) return;
  const [asker] = await tx.select().from(person).where(eq(person.id, row.askedBy));
  const rows = await tx
    .select({ id: item.id, classOfService: item.classOfService })
    .from(shownItem)
    .innerJoin(item, eq(item.id, shownItem.itemId))
    .where(eq(shownItem.showingId, row.id))
    .orderBy(item.id);
  for (const { id, classOfService } of rows)
    await keepAlerts(
      tx,
      { itemId: id, expedite: classOfService === "expedite" },
      [
        {
          ...{ personId: row.personId, rules: ["shown"] },
          said: `${asker.name} shows it to you and waits for your word`,
        },
      ],
      now,
    );
}
