import { and, inArray, isNull, sql } from "drizzle-orm";
import { isStandardRule, standardRule, type StandardRuleId } from "@/core/alerts/standard-rules";
import type { Ways } from "@/core/alerts/ways";
import type { Reader } from "@/db/connection";
import { alertChoice, alertRule } from "@/db/schema";

/** How people hear by each rule: as they chose, or as everybody begins. */
export type WaysOf = (personId: string, rule: string) => Ways;

/**
 * How some people hear.
 * @param rules of theirs that may be asked for: rules of their own are read where some are named
 */
export async function waysOf(
  reader: Reader,
  personIds: readonly string[],
  rules: readonly string[] = [],
): Promise<WaysOf> {
  const own = [...new Set(rules.filter((rule) => !isStandardRule(rule)))];
  const rows =
    personIds.length === 0
      ? []
      : await reader
          .select()
          .from(alertChoice)
          .where(inArray(alertChoice.personId, [...personIds]));
  const ownRows =
    own.length === 0
      ? []
      : await reader
          .select({ rule: sql<string>`${alertRule.id}::text`, ...ownWays })
          .from(alertRule)
          .where(and(inArray(alertRule.id, own), isNull(alertRule.removedAt)));
  const chosen = new Map([...rows, ...ownRows].map((row) => [`${row.personId} ${row.rule}`, row]));
  return (personId, rule) => {
    const choice = chosen.get(`${personId} ${rule}`);
    if (choice) return { off: choice.off, mail: choice.mail, feed: choice.feed };
    return isStandardRule(rule) ? standardRule(rule as StandardRuleId).ways : OFF;
  };
}

const ownWays = {
  personId: alertRule.personId,
  off: alertRule.off,
  mail: alertRule.mail,
  feed: alertRule.feed,
};

/** A rule that is not there any more. */
const OFF: Ways = { off: true, mail: "none", feed: false };
