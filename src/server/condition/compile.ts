import { and, inArray, not, or, sql, type SQL } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import type { Comparison, Condition } from "@/core/condition/condition";
import { dateOf, idsOf, type Asker } from "@/core/condition/evaluate";
import { FACTS, type FactName } from "@/core/condition/facts";
import { item, itemLink, stay } from "@/db/schema";

const TRUE = sql`true`;
const FALSE = sql`false`;

/**
 * A condition as SQL over the rows of `item`: true for exactly the items for which `holds` is true in the core.
 * A fact without a value gives false here as there, never null, so that `not` means the same.
 */
export function compileCondition(condition: Condition, asker: Asker): SQL {
  switch (condition.kind) {
    case "all":
      return and(...condition.of.map((c) => compileCondition(c, asker))) ?? TRUE;
    case "any":
      return or(...condition.of.map((c) => compileCondition(c, asker))) ?? FALSE;
    case "not":
      return not(compileCondition(condition.of, asker));
    case "compare":
      return compileComparison(condition, asker);
  }
}

function compileComparison({ fact, op, value }: Comparison, asker: Asker): SQL {
  const positive = (as: Comparison["op"]) => compileComparison({ kind: "compare", fact, op: as, value }, asker);
  if (op === "is not") return not(positive("is"));
  if (op === "none of") return not(positive("one of"));
  if (op === "lacks") return not(positive("contains"));
  const { kind } = FACTS[fact];
  if (kind === "set") return contains(fact, value as string);
  const actual = column(fact, asker);
  if (op === "is set") return sql`(${actual}) is not null`;
  if (op === "is empty") return sql`(${actual}) is null`;
  if (value === null) return FALSE;
  if (kind === "choice") {
    const ids = idsOf(value, asker);
    return ids.length === 0 ? FALSE : known(inArray(actual, ids));
  }
  if (kind === "text" && op === "contains") return known(sql`position(lower(${value} collate "C") in lower((${actual}) collate "C")) > 0`);
  if (kind === "text" || kind === "flag") return known(sql`(${actual}) = ${value}`);
  const wanted = kind === "date" ? sql`${dateOf(value, asker)}::date` : sql`${value}::float8`;
  return known(sql`(${actual}) ${SIGNS[op as keyof typeof SIGNS]} ${wanted}`);
}

const SIGNS = { is: sql.raw("="), "at least": sql.raw(">="), "at most": sql.raw("<="), "more than": sql.raw(">"), "less than": sql.raw("<") };

/** Null is false. */
const known = (condition: SQL): SQL => sql`coalesce(${condition}, false)`;

/** Days from an instant to now, counted in milliseconds as the core counts them. */
const days = (instant: typeof item.createdAt | typeof item.enteredStateAt | typeof item.blockedSince, now: number) =>
  sql`(${now}::float8 - round(date_part('epoch', ${instant}) * 1000)) / 86400000.0::float8`;

const child = alias(item, "child");
const childCount = (open: SQL) => sql`(select count(*)::float8 from ${item} as "child" where ${child.parentId} = ${item.id} and ${child.withdrawnAt} is null and ${open})`;

function column(fact: FactName, asker: Asker): SQL {
  switch (fact) {
    case "description":
      return sql`nullif(${item.description}, '')`;
    case "blocked":
      return sql`jsonb_array_length(${item.openBlockers}) > 0`;
    case "daysInState":
      return days(item.enteredStateAt, asker.now);
    case "daysSinceCreated":
      return days(item.createdAt, asker.now);
    case "daysBlocked":
      return days(item.blockedSince, asker.now);
    case "children":
      return childCount(TRUE);
    case "openChildren":
      return childCount(sql`${child.stateKind} <> 'finished'`);
    case "everIn":
    case "links":
      throw new Error(`${fact} is a set`);
    default:
      return sql`${item[fact]}`;
  }
}

function contains(fact: FactName, value: string): SQL {
  if (fact === "everIn") return sql`exists (select 1 from ${stay} where ${stay.itemId} = ${item.id} and ${stay.stateId} = ${value})`;
  return sql`exists (select 1 from ${itemLink} where ${itemLink.fromItemId} = ${item.id} and ${itemLink.kind} = ${value})`;
}
