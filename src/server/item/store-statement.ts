import type { Cause } from "@/core/item/event";
import type { Timebox } from "@/core/plan/membership";
import { columnNames, type JsonRecord } from "@/db/record";
import { item } from "@/db/schema";
import { namedSql } from "@/db/statement";

/** What the statement writes, in the names of the database. */
export interface Written {
  itemId: string;
  item: JsonRecord;
  events: JsonRecord[];
  /** The free texts of the events. */
  texts: JsonRecord[];
  told: JsonRecord[];
  passages: JsonRecord[];
  /**
   * What becomes of the stay that was open before: the time it is left, blocked and ready time,
   * outcome.
   */
  open: {
    left_at?: string;
    blocked_ms?: number;
    ready_ms?: number;
    outcome?: string | null;
  } | null;
  stays: JsonRecord[];
  blocks: JsonRecord[];
  lifted: { id: string; at: string }[];
  comments: JsonRecord[];
  links: JsonRecord[];
  unlinked: string[];
  /** Sprints and releases that it leaves, and those that it comes to. */
  boxesLeft: { box: Timebox; at: string; size: number | null; why: Cause }[];
  boxesEntered: JsonRecord[];
}

export const emptyIntervals = () => ({
  open: null as Written["open"],
  stays: [] as JsonRecord[],
  blocks: [] as JsonRecord[],
  lifted: [] as Written["lifted"],
  comments: [] as JsonRecord[],
  links: [] as JsonRecord[],
  unlinked: [] as string[],
  boxesLeft: [] as Written["boxesLeft"],
  boxesEntered: [] as JsonRecord[],
});

/** Texts that may be long are written only where they change: they are stored apart from the row. */
const LONG = ["description", "how_to_test"];
const changeable = columnNames(item).filter((name) => name !== "id");
const changed = changeable.map((name) =>
  LONG.includes(name)
    ? `case when $1::jsonb -> 'item' ? '${name}' then r.${name} else i.${name} end`
    : `r.${name}`,
);

const FROM_GIVEN = (table: string, part: string) =>
  `jsonb_populate_recordset(null::${table}, $1::jsonb -> '${part}') r`;

/**
 * Everything but the item itself. The stay that is left is closed before the next one opens: there
 * is one open stay an item at most, at every moment.
 */
const REST = `
  history as (insert into item_event select r.* from ${FROM_GIVEN("item_event", "events")}),
  worded as (insert into item_text select r.* from ${FROM_GIVEN("item_text", "texts")}),
  closed as (
    update stay s set
      left_at = coalesce(($1::jsonb #>> '{open,left_at}')::timestamptz, s.left_at),
      blocked_ms = s.blocked_ms + coalesce(($1::jsonb #>> '{open,blocked_ms}')::bigint, 0),
      ready_ms = s.ready_ms + coalesce(($1::jsonb #>> '{open,ready_ms}')::bigint, 0),
      outcome = case when $1::jsonb -> 'open' ? 'outcome' then $1::jsonb #>> '{open,outcome}' else s.outcome end
    where jsonb_typeof($1::jsonb -> 'open') = 'object' and s.item_id = ($1::jsonb ->> 'itemId')::uuid
      and s.left_at is null
    returning 1),
  entered as (
    insert into stay select r.* from ${FROM_GIVEN("stay", "stays")}
    where (select count(*) from closed) >= 0),
  passed as (
    insert into flow_passage (item_id, seq, project_id, at, kind, outcome, elapsed_ms, since_last_ms, times)
    select r.item_id, r.seq, r.project_id, r.at, r.kind, r.outcome, r.elapsed_ms,
      r.elapsed_ms - coalesce((select max(p.elapsed_ms) from flow_passage p where p.item_id = r.item_id), 0),
      r.times
    from ${FROM_GIVEN("flow_passage", "passages")}),
  began as (insert into block select r.* from ${FROM_GIVEN("block", "blocks")}),
  ended as (
    update block b set lifted_at = l.at
    from jsonb_to_recordset($1::jsonb -> 'lifted') as l (id uuid, at timestamptz)
    where b.item_id = ($1::jsonb ->> 'itemId')::uuid and b.id = l.id),
  said as (insert into comment select r.* from ${FROM_GIVEN("comment", "comments")}),
  joined as (insert into item_link select r.* from ${FROM_GIVEN("item_link", "links")}),
  unboxed as (
    update box_membership m set to_at = l.at, size_at_end = l.size, why_ended = l.why
    from jsonb_to_recordset($1::jsonb -> 'boxesLeft') as l (box text, at timestamptz, size float8, why text)
    where m.item_id = ($1::jsonb ->> 'itemId')::uuid and m.box = l.box and m.to_at is null
    returning 1),
  boxed as (
    insert into box_membership select r.* from ${FROM_GIVEN("box_membership", "boxesEntered")}
    where (select count(*) from unboxed) >= 0),
  parted as (
    delete from item_link l using jsonb_array_elements_text($1::jsonb -> 'unlinked') as u (id)
    where l.id = u.id::uuid)
  insert into domain_event (project_id, at, kind, version, data, item_id)
  select r.project_id, r.at, r.kind, r.version, r.data, r.item_id
  from ${FROM_GIVEN("domain_event", "told")}`;

export const STORE_CHANGE = namedSql(
  "store a change of an item",
  `with changed as (
    update item i set (${changeable.join(", ")}) = (
      select ${changed.join(", ")} from jsonb_populate_record(i, $1::jsonb -> 'item') r)
    where i.id = ($1::jsonb ->> 'itemId')::uuid),
  ${REST}`,
);

export const STORE_NEW = namedSql(
  "store a new item",
  `with made as (insert into item select r.* from jsonb_populate_record(null::item, $1::jsonb -> 'item') r),
  known as (
    insert into item_key (prefix, number, item_id, since)
    select p.key, r.number, r.id, r.created_at
    from jsonb_populate_record(null::item, $1::jsonb -> 'item') r join project p on p.id = r.project_id),
  ${REST}`,
);
