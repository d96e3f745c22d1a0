import { inArray } from "drizzle-orm";
import { isStandardRule, standardRule, type StandardRuleId } from "@/core/alerts/standard-rules";
import type { Ways } from "@/core/alerts/ways";
import type { Reader } from "@/db/connection";
import { alertChoice } from "@/db/schema";

/** How people hear by each rule: as they chose, or as everybody begins. */
export type WaysOf = (personId: string, rule: string) => Ways;

/** How some people hear. */
export async function waysOf(reader: Reader, personIds: readonly string[]): Promise<WaysOf> {
  const rows =
    personIds.length === 0
      ? []
      : await reader
          .select()
          .from(alertChoice)
          .where(inArray(alertChoice.personId, [...personIds]));
  const chosen = new Map(rows.map((row) => [`${row.personId} ${row.rule}`, row]));
  return (personId, rule) => {
    const choice = chosen.get(`${personId} ${rule}`);
    if (choice) return { off: choice.off, mail: choice.mail, feed: choice.feed };
    return isStandardRule(rule) ? standardRule(rule as StandardRuleId).ways : OFF;
  };
}

/** A rule that is not there any more. */
const OFF: Ways = { off: true, mail: "none", feed: false };
