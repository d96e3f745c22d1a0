import { and, inArray, not, or, sql, type SQL, type SQLWrapper } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { otherFact, type Comparison, type Condition } from "@/core/condition/condition";
import { dateOf, idsOf, type Asker } from "@/core/condition/evaluate";
import type { Arithmetic } from "@/core/condition/arithmetic";
import {
  factOf,
  ownFieldOf,
  type FactName,
  type ItemFactName,
  type OwnFactName,
} from "@/core/condition/facts";
import { PROMISE_BANDS, type PromiseBand } from "@/core/item/promise-band";
import { isShown, type OwnField } from "@/core/item/own-field";
import type { AlikeFields } from "@/core/across/merge-vocabulary";
import { follow, item, itemLink, itemType, stay } from "@/db/schema";
import type { ItemColumns } from "../people/access";
import { votesColumn } from "../item/votes";
import { shownColumn } from "./shown";

const TRUE = sql`true`;
const FALSE = sql`false`;

/** Another item beside the one that is asked about: one under it, and one linked to it. */
const child = alias(item, "child");
const other = alias(item, "other");

/**
 * Who asks, the project's own fields where the condition may be about computed ones, and what they
 * may see around an item.
 */
export type SqlAsker = Asker & {
  ownFields?: readonly OwnField[];
  /** Own fields that are one where several projects are looked at. */
  alike?: AlikeFields;
  /** How promises stand, by item; where it is left out, nothing can be asked of it. */
  promises?: ReadonlyMap<string, PromiseBand>;
  /** Which other items count, by the table's columns; all where it is left out. */
  sees?: (of: ItemColumns) => SQL | undefined;
};

/**
 * A condition as SQL over the rows of `item`: true for exactly the items for which `holds` is true
 * in the core. A fact without a value gives false here as there, never null, so that `not` means
 * the same.
 */
export function compileCondition(condition: Condition, asker: SqlAsker): SQL {
  switch (condition.kind) {
    case "all":
      return and(...condition.of.map((c) => compileCondition(c, asker))) ?? TRUE;
    case "any":
      return or(...condition.of.map((c) => compileCondition(c, asker))) ?? FALSE;
    case "not":
      return not(compileCondition(condition.of, asker));
    case "some":
      return compileRelatives(condition, asker);
    case "compare":
      return compileComparison(condition, asker);
  }
}

/**
 * Whether something around an item is like what is asked. The items around are looked for by
 * themselves, as rows of `item` of their own, so that the same is compiled of them.
 */
function compileRelatives(
  { among, of }: Extract<Condition, { kind: "some" }>,
  asker: SqlAsker,
): SQL {
  const like = and(...of.map((c) => compileCondition(c, asker)), asker.sees?.(item)) ?? TRUE;
  return among === "children"
    ? sql`${item.id} in (select ${item.parentId} from ${item} where ${item.parentId} is not null and ${item.withdrawnAt} is null and ${like})`
    : known(
        sql`${item.parentId} in (select ${item.id} from ${item} where ${item.withdrawnAt} is null and ${like})`,
      );
}

function compileComparison({ fact, op, value }: Comparison, asker: SqlAsker): SQL {
  const positive = (as: Comparison["op"]) =>
    compileComparison({ kind: "compare", fact, op: as, value }, asker);
  if (op === "is not") return not(positive("is"));
  if (op === "none of") return not(positive("one of"));
  if (op === "lacks") return not(positive("contains"));
  const { kind } = factOf(fact);
  if (op === "counts at least" || op === "counts at most")
    return known(
      sql`${size(fact, asker)} ${op === "counts at least" ? SIGNS["at least"] : SIGNS["at most"]} ${value}::int`,
    );
  if (kind === "set") return contains(fact, value as string, asker);
  const actual = factColumn(fact, asker);
  if (op === "is set") return sql`(${actual}) is not null`;
  if (op === "is empty") return sql`(${actual}) is null`;
  if (value === null) return FALSE;
  const other = otherFact({ value });
  if (other !== null)
    return op === "is"
      ? sql`(${actual}) is not distinct from (${factColumn(other, asker)})`
      : known(sql`(${actual}) ${SIGNS[op as keyof typeof SIGNS]} (${factColumn(other, asker)})`);
  if (kind === "choice") {
    const ids = idsOf(value, asker);
    return ids.length === 0 ? FALSE : known(inArray(actual, ids));
  }
  if (kind === "text" && op === "contains")
    return known(sql`position(lower(${value} collate "C") in lower((${actual}) collate "C")) > 0`);
  if (kind === "text" && op === "contains exactly")
    return known(sql`position(${value} in (${actual})) > 0`);
  if (kind === "text" && op === "starts with") return known(sql`starts_with(${actual}, ${value})`);
  if (kind === "text" && op === "ends with")
    return known(sql`right(${actual}, length(${value})) = ${value}`);
  if (kind === "text" || kind === "flag") return known(sql`(${actual}) = ${value}`);
  const wanted = kind === "date" ? sql`${dateOf(value, asker)}::date` : sql`${value}::float8`;
  return known(sql`(${actual}) ${SIGNS[op as keyof typeof SIGNS]} ${wanted}`);
}

const SIGNS = {
  is: sql.raw("="),
  "at least": sql.raw(">="),
  "at most": sql.raw("<="),
  "more than": sql.raw(">"),
  "less than": sql.raw("<"),
};

/** Null is false. */
const known = (condition: SQL): SQL => sql`coalesce(${condition}, false)`;

/** Days from an instant to now, counted in milliseconds as the core counts them. */
const days = (instant: SQLWrapper, now: number) =>
  sql`(${now}::float8 - round(date_part('epoch', ${instant}) * 1000)) / 86400000.0::float8`;

/** As `daysTouched` in the core counts them; of nothing that does not run just now. */
function age({ now, zone }: SqlAsker): SQL {
  const dayOf = (ms: SQL) => sql`(to_timestamp(${ms} / 1000.0) at time zone ${zone}::text)::date`;
  const from = sql`(c ->> 'from')::float8`;
  const to = sql`coalesce((c ->> 'to')::float8, greatest(${now}::float8, ${from}))`;
  return sql`(case when jsonb_path_exists(${item.clock}, '$[*] ? (@.to == null)') then (select count(distinct day)::float8 from jsonb_array_elements(${item.clock}) as c, generate_series(${dayOf(from)}, ${dayOf(to)}, interval '1 day') as day) end)`;
}

const childCount = (open: SQL, { sees }: SqlAsker) =>
  sql`(select count(*)::float8 from ${item} as "child" where ${child.parentId} = ${item.id} and ${child.withdrawnAt} is null and ${open} and ${sees?.(child) ?? TRUE})`;

/** What an item waits for and was not delivered yet. */
const waitsFor = ({ sees }: SqlAsker) =>
  sql`(select count(*)::float8 from ${itemLink} join ${item} as "other" on ${other.id} = ${itemLink.toItemId} where ${itemLink.fromItemId} = ${item.id} and ${itemLink.kind} = 'waits for' and ${other.deliveredAt} is null and ${sees?.(other) ?? TRUE})`;

/** What is not finished and waits for an item, as long as that was not delivered. */
const waitedFor = ({ sees }: SqlAsker) =>
  sql`(select count(*)::float8 from ${itemLink} join ${item} as "other" on ${other.id} = ${itemLink.fromItemId} where ${itemLink.toItemId} = ${item.id} and ${itemLink.kind} = 'waits for' and ${item.deliveredAt} is null and ${other.stateKind} <> 'finished' and ${other.withdrawnAt} is null and ${sees?.(other) ?? TRUE})`;

/** What a fact is, as SQL over the rows of `item`; null where it has no value. No set is one value. */
export function factColumn(fact: FactName, asker: SqlAsker): SQL {
  if (ownFieldOf(fact)) return ownColumn(fact as OwnFactName, asker);
  switch (fact as ItemFactName) {
    case "description":
      return sql`nullif(${item.description}, '')`;
    case "blocked":
      return sql`jsonb_array_length(${item.openBlockers}) > 0`;
    case "ready":
      return sql`${item.readySince} is not null`;
    case "daysInState":
      return days(item.enteredStateAt, asker.now);
    case "daysSinceCreated":
      return days(item.createdAt, asker.now);
    case "daysBlocked":
      return days(item.blockedSince, asker.now);
    case "daysReady":
      return days(item.readySince, asker.now);
    case "age":
      return age(asker);
    case "criteria":
      return sql`jsonb_array_length(${item.criteria})::float8`;
    case "openCriteria":
      return sql`(jsonb_array_length(${item.criteria}) - jsonb_array_length(${item.met}))::float8`;
    case "children":
      return childCount(TRUE, asker);
    case "openChildren":
      return childCount(sql`${child.stateKind} <> 'finished'`, asker);
    case "waitsFor":
      return waitsFor(asker);
    case "waitedFor":
      return waitedFor(asker);
    case "followed":
      return followed(asker);
    case "followers":
      return followers;
    case "votes":
      return votesColumn(item.id);
    case "promise":
      return promise(asker);
    case "level":
      return level;
    case "openChanges":
      return changeCount("open");
    case "mergedChanges":
      return changeCount("merged");
    case "checks":
      return checks;
    case "testResult":
      return sql`${item.outside} ->> 'testResult'`;
    case "spentHours":
      return sql`(${item.spentMinutes} / 60.0::float8)`;
    case "everIn":
    case "links":
    case "labels":
    case "parts":
    case "deployedTo":
      throw new Error(`${fact} is a set`);
    default:
      return sql`${item[fact as PlainColumn]}`;
  }
}

type PlainColumn = Exclude<
  ItemFactName,
  | "blocked"
  | "daysInState"
  | "daysSinceCreated"
  | "daysBlocked"
  | "ready"
  | "daysReady"
  | "spentHours"
  | "age"
  | "criteria"
  | "openCriteria"
  | "children"
  | "openChildren"
  | "waitsFor"
  | "waitedFor"
  | "followed"
  | "followers"
  | "votes"
  | "promise"
  | "level"
  | "openChanges"
  | "mergedChanges"
  | "checks"
  | "testResult"
  | "everIn"
  | "links"
  | "labels"
  | "parts"
  | "deployedTo"
>;

/** Who follows an item itself, alone or with all below it. */
const following = sql`${follow.kind} in ('item', 'below') and ${follow.target} = ${item.id}::text and ${follow.on}`;
const followers = sql`(select count(distinct ${follow.personId})::float8 from ${follow} where ${following})`;
const followed = ({ personId }: SqlAsker): SQL =>
  personId === null
    ? sql`false`
    : sql`exists (select 1 from ${follow} where ${following} and ${follow.personId} = ${personId})`;

/** A number as its text: levels are chosen from those that there are. */
const level = sql`(select ${itemType.level}::text from ${itemType} where ${itemType.projectId} = ${item.projectId} and ${itemType.id} = ${item.typeId})`;

/** Worked out by the core beforehand: it is about working time, and what others did meanwhile. */
function promise({ promises = new Map() }: SqlAsker): SQL {
  const idsOf = (band: PromiseBand) =>
    sql.param([...promises].flatMap(([id, stands]) => (stands === band ? [id] : [])));
  const bands = PROMISE_BANDS.map(
    (band) => sql`when ${item.id} = any(${idsOf(band)}::uuid[]) then ${band}::text`,
  );
  return sql`(case ${sql.join(bands, sql` `)} end)`;
}

const changeCount = (status: string) =>
  sql`(select count(*)::float8 from jsonb_array_elements(${item.outside} -> 'changes') as c where c ->> 'status' = ${status})`;

/** As `checksOf` in the core says it. */
const checks = sql`(select case
  when count(*) = 0 then null
  when bool_or(c ->> 'checks' = 'failed') then 'failed'
  when bool_and(c ->> 'checks' is null) then null
  when bool_and(coalesce(c ->> 'checks', '') = 'passed') then 'passed'
  else 'running' end
  from jsonb_array_elements(${item.outside} -> 'changes') as c where c ->> 'status' <> 'abandoned')`;

function ownColumn(fact: OwnFactName, asker: SqlAsker): SQL {
  const { kind, id } = ownFieldOf(fact)!;
  const stored = ownText(id, asker);
  if (kind === "number") return sql`(${stored})::float8`;
  if (kind === "date") return sql`(${stored})::date`;
  if (kind === "yes or no") return sql`coalesce((${stored})::boolean, false)`;
  if (kind === "computed") return computed(id, asker.ownFields ?? [], []);
  return isShown(kind) ? shownColumn(id, kind, asker) : stored;
}

/** What an own field says, or whichever of those that mean the same. */
function ownText(id: string, { alike }: SqlAsker): SQL {
  const [first, ...others] = (alike?.fields[id] ?? [id]).map(
    (one) => sql`${item.own} ->> ${one}::text`,
  );
  const said =
    others.length === 0 ? first : sql`coalesce(${sql.join([first, ...others], sql`, `)})`;
  const options = alike?.options ?? {};
  if (others.length === 0 || Object.keys(options).length === 0) return said;
  return sql`coalesce(${JSON.stringify(options)}::jsonb ->> (${said}), ${said})`;
}

/**
 * A computed field as SQL; a circle of fields, which is refused when they are stored, has no value.
 */
function computed(id: string, fields: readonly OwnField[], path: readonly string[]): SQL {
  const formula = fields.find((f) => f.id === id && f.kind === "computed")?.formula;
  return !formula || path.includes(id)
    ? sql`null::float8`
    : calculation(formula, fields, [...path, id]);
}

function calculation(
  formula: Arithmetic,
  fields: readonly OwnField[],
  path: readonly string[],
): SQL {
  const part = (of: Arithmetic) => calculation(of, fields, path);
  switch (formula.kind) {
    case "number":
      return sql`${formula.value}::float8`;
    case "field": {
      if (formula.field === "estimate") return sql`${item.estimate}`;
      if (formula.field === "returns") return sql`${item.returns}::float8`;
      const own = fields.find((f) => `own.${f.id}` === formula.field);
      if (own?.kind === "computed") return computed(own.id, fields, path);
      return own?.kind === "number"
        ? sql`(${item.own} ->> ${own.id}::text)::float8`
        : sql`null::float8`;
    }
    case "negative":
      return sql`(-${part(formula.of)})`;
    case "/":
      return sql`(${part(formula.left)} / nullif(${part(formula.right)}, 0))`;
    default:
      return sql`(${part(formula.left)} ${ARITHMETIC[formula.kind]} ${part(formula.right)})`;
  }
}

const ARITHMETIC = { "+": sql.raw("+"), "-": sql.raw("-"), "*": sql.raw("*") };

/** How many values a set has, or code points a text; as the core counts them. */
function size(fact: FactName, asker: SqlAsker): SQL {
  const own = ownFieldOf(fact);
  if (factOf(fact).kind === "text") return sql`char_length(${factColumn(fact, asker)})`;
  if (own) return sql`jsonb_array_length(coalesce(${item.own} -> ${own.id}::text, '[]'::jsonb))`;
  if (fact === "labels" || fact === "parts") return sql`jsonb_array_length(${item[fact]})`;
  if (fact === "deployedTo") return sql`jsonb_array_length(${item.outside} -> 'deployedTo')`;
  if (fact === "everIn")
    return sql`(select count(distinct ${stay.stateId}) from ${stay} where ${stay.itemId} = ${item.id})`;
  if (!asker.sees)
    return sql`(select count(distinct ${itemLink.kind}) from ${itemLink} where ${itemLink.fromItemId} = ${item.id})`;
  return sql`(select count(distinct ${itemLink.kind}) from ${itemLink} join ${item} as "child" on ${child.id} = ${itemLink.toItemId} where ${itemLink.fromItemId} = ${item.id} and ${asker.sees(child) ?? TRUE})`;
}

function contains(fact: FactName, value: string, { sees }: SqlAsker): SQL {
  const own = ownFieldOf(fact);
  if (own) return sql`coalesce(${item.own} -> ${own.id}::text ? ${value}, false)`;
  if (fact === "labels" || fact === "parts") return sql`${item[fact]} ? ${value}`;
  if (fact === "deployedTo") return sql`${item.outside} -> 'deployedTo' ? ${value}`;
  if (fact === "everIn")
    return sql`exists (select 1 from ${stay} where ${stay.itemId} = ${item.id} and ${stay.stateId} = ${value})`;
  if (!sees)
    return sql`exists (select 1 from ${itemLink} where ${itemLink.fromItemId} = ${item.id} and ${itemLink.kind} = ${value})`;
  return sql`exists (select 1 from ${itemLink} join ${item} as "child" on ${child.id} = ${itemLink.toItemId} where ${itemLink.fromItemId} = ${item.id} and ${itemLink.kind} = ${value} and ${sees(child) ?? TRUE})`;
}
