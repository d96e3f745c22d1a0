import type { Condition } from "@/core/condition/condition";
import { EMPTY_VOCABULARY } from "@/core/condition/vocabulary";
import type { ListQuery } from "@/core/item/list/query";
import { database, pool } from "@/db/connection";
import { item } from "@/db/schema";
import { compileCondition } from "@/server/condition/compile";
import { readGroups, readListPage, type ListOf } from "@/server/item/list/read";
import { and, isNull } from "drizzle-orm";
import { countValues } from "@/server/item/list/counted";
import type { FactName } from "@/core/condition/facts";
import { p95, timed, type Row } from "./row";

const PAGE = 100;

const CONDITION: Condition = {
  kind: "all",
  of: [
    { kind: "compare", fact: "estimate", op: "at least", value: 2 },
    { kind: "compare", fact: "stateKind", op: "none of", value: ["unstarted"] },
    { kind: "compare", fact: "daysSinceCreated", op: "more than", value: 5 },
  ],
};
const QUERY: ListQuery = {
  group: "priority",
  sort: [
    { fact: "estimate", descending: true },
    { fact: "title", descending: false },
  ],
  sums: ["estimate", "dueOn"],
};

/** The same list as it would be written by hand for this one question. */
const BY_HAND = {
  page: `select id, array_position(array['low','normal','high','urgent'], priority) as g, estimate, lower(title collate "C") collate "C" as words, rank
    from item
    where withdrawn_at is null and estimate >= 2 and state_kind <> 'unstarted' and created_at < now() - interval '5 days'
    order by g nulls last, estimate desc nulls last, words nulls last, rank, id limit ${PAGE + 1}`,
  groups: `select priority, count(*)::int, count(estimate)::int, sum(estimate)::float8, avg(estimate)::float8,
      percentile_cont(0.5) within group (order by estimate), count(due_on)::int, min(due_on)::text, max(due_on)::text
    from item
    where withdrawn_at is null and estimate >= 2 and state_kind <> 'unstarted' and created_at < now() - interval '5 days'
    group by priority order by array_position(array['low','normal','high','urgent'], priority)`,
};

const COUNTED: readonly FactName[] = ["assigneeId", "priority", "typeId", "stateId"];
const COLUMNS = ["assignee_id", "priority", "type_id", "state_id"];

/** The values of four fields over everything, with their counts and sums. */
export async function valuesOfAll(items: number): Promise<Row> {
  const asker = {
    personId: "p0",
    teamIds: [],
    now: Date.now(),
    zone: "Europe/London",
    vocabulary: EMPTY_VOCABULARY,
  };
  const of: ListOf = { reader: database(), where: isNull(item.withdrawnAt), asker };
  const ours = async () => {
    for (const fact of COUNTED) await countValues(of, fact, "estimate");
  };
  const byHand = async () => {
    for (const column of COLUMNS)
      await pool().query(
        `select ${column}, count(*), sum(estimate) from item where withdrawn_at is null group by 1`,
      );
  };
  await timed(3, ours);
  await timed(3, byHand);
  return {
    what: `the values of four fields with counts and sums, over ${items.toLocaleString("en")} items, p95`,
    measured: p95(await timed(30, ours)),
    yardstick: p95(await timed(30, byHand)),
    against: "four plain queries that group",
    reach: 2,
  };
}

/** The first page of a list over everything, with its groups and sums. */
export async function listOfAll(items: number): Promise<Row> {
  const asker = {
    personId: "p0",
    teamIds: [],
    now: Date.now(),
    zone: "Europe/London",
    vocabulary: EMPTY_VOCABULARY,
  };
  const where = and(isNull(item.withdrawnAt), compileCondition(CONDITION, asker));
  const of: ListOf = { reader: database(), where, asker };
  const ours = async () => {
    await readListPage(of, QUERY, { after: null, limit: PAGE });
    await readGroups(of, QUERY);
  };
  const byHand = async () => {
    await pool().query(BY_HAND.page);
    await pool().query(BY_HAND.groups);
  };
  await timed(3, ours);
  await timed(3, byHand);
  return {
    what: `the first page of a list of ${items.toLocaleString("en")} items: three conditions, sorted, grouped with sums, p95`,
    measured: p95(await timed(30, ours)),
    yardstick: p95(await timed(30, byHand)),
    against: "the SQL written by hand for that one question",
    reach: 2,
  };
}
