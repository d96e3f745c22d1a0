import type { Instant } from "@/core/calendar/instant";
import type { Transaction } from "@/db/connection";
import { reportMessage } from "@/db/schema";

/** Puts news on the page of a report: what is told and is no step of its item. */
export async function putNews(
  tx: Transaction,
  reportId: string,
  body: string,
  at: Instant,
): Promise<void> {
  await tx.insert(reportMessage).values({ reportId, kind: "news", body, at });
}
