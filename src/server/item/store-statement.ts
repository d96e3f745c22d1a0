import type { Cause } from "@/core/item/event";
import type { TalkClosing } from "@/core/talk/comment";
import type { Timebox } from "@/core/plan/membership";
import { columnNames, type JsonRecord } from "@/db/record";
import { item } from "@/db/schema";
import { namedSql } from "@/db/statement";

/** What the statement writes for some items, in the names of the database. */
export interface Written {
  /** Of a new item all of it; of another one what is different. By its id. */
  items: Record<string, JsonRecord>;
  events: JsonRecord[];
  /** The free texts of the events. */
  texts: JsonRecord[];
  told: JsonRecord[];
  passages: JsonRecord[];
  /** What becomes of the stay of an item that was open before. By the item's id. */
  open: Record<string, OpenStay>;
  stays: JsonRecord[];
  blocks: JsonRecord[];
  lifted: { item_id: string; id: string; at: string }[];
  comments: JsonRecord[];
  /** Comments that are changed or taken back, with what is different about them. */
  recomments: JsonRecord[];
  /** Time recorded, as it stands after the change. */
  times: JsonRecord[];
  /** Of items whose talk is closed how far; null where it is opened again. */
  talk: { item_id: string; closing: TalkClosing | null }[];
  links: JsonRecord[];
  unlinked: string[];
  /** Sprints and releases that they leave, and those that they come to. */
  boxesLeft: { item_id: string; box: Timebox; at: string; size: number | null; why: Cause }[];
  boxesEntered: JsonRecord[];
}

/** The time that a stay is left, blocked and ready time that comes to it, another outcome. */
export interface OpenStay {
  left_at?: string;
  blocked_ms?: number;
  ready_ms?: number;
  outcome?: string | null;
}

export const nothingWritten = (): Written => ({
  items: {},
  events: [],
  texts: [],
  told: [],
  passages: [],
  open: {},
  stays: [],
  blocks: [],
  lifted: [],
  comments: [],
  recomments: [],
  times: [],
  talk: [],
  links: [],
  unlinked: [],
  boxesLeft: [],
  boxesEntered: [],
});

/** What is written for some items at once, of each no more than once. */
export function writtenTogether(all: readonly Written[]): Written {
  if (all.length === 1) return all[0];
  const together = nothingWritten();
  for (const { items, open, ...lists } of all) {
    Object.assign(together.items, items);
    Object.assign(together.open, open);
    for (const [part, rows] of Object.entries(lists))
      (together[part as keyof typeof lists] as unknown[]).push(...rows);
  }
  return together;
}

/** What the statements are given: what they write, and the ids of its items. */
export const asGiven = (written: Written): unknown[] => [
  JSON.stringify(written),
  Object.keys(written.items),
];

/** Texts that may be long are written only where they change: they are stored apart from the row. */
const OF_ITEM = "($1::jsonb -> 'items' -> i.id::text)";
const LONG = ["description", "how_to_test"];
const changeable = columnNames(item).filter((name) => name !== "id");
const changed = changeable.map((name) =>
  LONG.includes(name)
    ? `case when ${OF_ITEM} ? '${name}' then r.${name} else i.${name} end`
    : `r.${name}`,
);

const FROM_GIVEN = (table: string, part: string) =>
  `jsonb_populate_recordset(null::${table}, $1::jsonb -> '${part}') r`;

const OPEN = "($1::jsonb -> 'open' -> s.item_id::text)";

/** Whether a column names one of the items that are given. */
type Among = (column: string) => string;
const isOneOf: Among = (column) => `${column} = any($2::uuid[])`;
/** Of one item alone the database knows that it is one row. */
const isTheOne: Among = (column) => `${column} = ($2::uuid[])[1]`;

/**
 * Everything but the item itself. The stay that is left is closed before the next one opens: there
 * is one open stay an item at most, at every moment.
 */
const rest = (isAmong: Among) => `
  history as (insert into item_event select r.* from ${FROM_GIVEN("item_event", "events")}),
  worded as (insert into item_text select r.* from ${FROM_GIVEN("item_text", "texts")}),
  closed as (
    update stay s set
      left_at = coalesce((${OPEN} ->> 'left_at')::timestamptz, s.left_at),
      blocked_ms = s.blocked_ms + coalesce((${OPEN} ->> 'blocked_ms')::bigint, 0),
      ready_ms = s.ready_ms + coalesce((${OPEN} ->> 'ready_ms')::bigint, 0),
      outcome = case when ${OPEN} ? 'outcome' then ${OPEN} ->> 'outcome' else s.outcome end
    where ${isAmong("s.item_id")} and s.left_at is null and ${OPEN} is not null
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
    from jsonb_to_recordset($1::jsonb -> 'lifted') as l (item_id uuid, id uuid, at timestamptz)
    where ${isAmong("b.item_id")} and b.item_id = l.item_id and b.id = l.id),
  said as (insert into comment select r.* from ${FROM_GIVEN("comment", "comments")}),
  resaid as (
    update comment c set
      body = coalesce(l.body, c.body), named = coalesce(l.named, c.named),
      edited_at = coalesce(l.edited_at, c.edited_at), gone_at = coalesce(l.gone_at, c.gone_at),
      gone_by = coalesce(l.gone_by, c.gone_by), why_gone = coalesce(l.why_gone, c.why_gone)
    from jsonb_to_recordset($1::jsonb -> 'recomments') as l (
      item_id uuid, id uuid, body text, named jsonb, edited_at timestamptz, gone_at timestamptz,
      gone_by text, why_gone text)
    where ${isAmong("c.item_id")} and c.item_id = l.item_id and c.id = l.id),
  timed as (
    insert into time_entry select r.* from ${FROM_GIVEN("time_entry", "times")}
    on conflict (item_id, id) do update set
      on_day = excluded.on_day, minutes = excluded.minutes, note = excluded.note,
      gone_at = excluded.gone_at),
  hushed as (
    insert into talk_closed
    select l.item_id, l.closing
    from jsonb_to_recordset($1::jsonb -> 'talk') as l (item_id uuid, closing text)
    where l.closing is not null
    on conflict (item_id) do update set closing = excluded.closing),
  reopened as (
    delete from talk_closed t using jsonb_to_recordset($1::jsonb -> 'talk') as l (
      item_id uuid, closing text)
    where ${isAmong("t.item_id")} and t.item_id = l.item_id and l.closing is null),
  joined as (insert into item_link select r.* from ${FROM_GIVEN("item_link", "links")}),
  unboxed as (
    update box_membership m set to_at = l.at, size_at_end = l.size, why_ended = l.why
    from jsonb_to_recordset($1::jsonb -> 'boxesLeft') as l (
      item_id uuid, box text, at timestamptz, size float8, why text)
    where ${isAmong("m.item_id")} and m.item_id = l.item_id and m.box = l.box
      and m.to_at is null
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

/*
 * Rows are found by the list of ids and looked up in what is given by theirs: a join with what is
 * given would make the database read whole tables, as it does not know how little that is.
 */

const storeChanges = (isAmong: Among) => `with changed as (
    update item i set (${changeable.join(", ")}) = (
      select ${changed.join(", ")} from jsonb_populate_record(i, ${OF_ITEM}) r)
    where ${isAmong("i.id")}),
  ${rest(isAmong)}`;

export const STORE_CHANGE = namedSql("store a change of an item", storeChanges(isTheOne));

export const STORE_CHANGES = namedSql("store changes of items", storeChanges(isOneOf));

const NEW_ITEMS = `jsonb_each($1::jsonb -> 'items') given,
    jsonb_populate_record(null::item, given.value) r`;

export const STORE_NEW = namedSql(
  "store new items",
  `with made as (insert into item select r.* from ${NEW_ITEMS}),
  known as (
    insert into item_key (prefix, number, item_id, since)
    select p.key, r.number, r.id, r.created_at
    from ${NEW_ITEMS} join project p on p.id = r.project_id),
  ${rest(isOneOf)}`,
);
