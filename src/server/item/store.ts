import { eq, inArray } from "drizzle-orm";
import type { Cause, EventOf, ItemEvent } from "@/core/item/event";
import { changesCounts } from "@/core/item/event-counts";
import type { ItemSnapshot } from "@/core/item/fields";
import { flowRecord } from "@/core/item/flow-record";
import { blockedEndedBy, passageIn, stateTimes, type StateTimes } from "@/core/item/passage";
import { applyEvent } from "@/core/item/snapshot";
import { boxOfField, BOXES, FIELD_OF_BOX, type Box } from "@/core/plan/membership";
import { namesOutcome } from "@/core/item/start-finish";
import type { Transaction } from "@/db/connection";
import { columnNames, jsonRecord, type JsonRecord } from "@/db/record";
import {
  block,
  boxMembership,
  comment,
  domainEvent,
  flowPassage,
  item,
  itemEvent,
  itemLink,
  stay,
} from "@/db/schema";
import { namedSql } from "@/db/statement";
import { eventRowOf } from "../events/announce";
import { flowRows } from "./flow-rows";
import { eventOf, eventRow } from "./rows";

/**
 * Stores events: the new snapshot, the history, the stays, blocks, passages and memberships that
 * measures read, and what is told of them, in one statement of the caller's transaction. The one place that writes
 * any of them.
 * @returns the snapshot after the events
 * @param depth how many moves in a row happened by themselves, for what these events set off
 */
export async function storeEvents(
  tx: Transaction,
  before: ItemSnapshot | null,
  events: readonly ItemEvent[],
  depth = 0,
): Promise<ItemSnapshot> {
  if (events.length === 0) {
    if (!before) throw new Error("nothing to store");
    return before;
  }
  const steps = stepsOf(before, events);
  const after = steps.at(-1)!.after;
  const written: Written = {
    itemId: after.id,
    item: jsonRecord(item, before ? differences(before, after) : after),
    events: events.map((e) => jsonRecord(itemEvent, eventRow(e))),
    told: [jsonRecord(domainEvent, toldOf(before, after, events, depth))],
    passages: await passageRows(tx, before, events, after),
    ...emptyIntervals(),
  };
  for (const step of steps) addConsequence(written, step);
  await (before ? STORE_CHANGE : STORE_NEW)(tx, [JSON.stringify(written)]);
  if (events.some((e) => e.kind === "undone")) await rebuildFlow(tx, [after]);
  return after;
}

/** What the statement writes, in the names of the database. */
interface Written {
  itemId: string;
  item: JsonRecord;
  events: JsonRecord[];
  told: JsonRecord[];
  passages: JsonRecord[];
  /** What becomes of the stay that was open before: the time it is left, blocked time, outcome. */
  open: { left_at?: string; blocked_ms?: number; outcome?: string | null } | null;
  stays: JsonRecord[];
  blocks: JsonRecord[];
  lifted: { id: string; at: string }[];
  comments: JsonRecord[];
  links: JsonRecord[];
  unlinked: string[];
  /** Sprints and releases that it leaves, and those that it comes to. */
  boxesLeft: { box: Box; at: string; size: number | null; why: Cause }[];
  boxesEntered: JsonRecord[];
}

const emptyIntervals = () => ({
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

/** An event with the item right before and right after it. */
interface Step {
  event: ItemEvent;
  before: ItemSnapshot | null;
  after: ItemSnapshot;
}

function stepsOf(before: ItemSnapshot | null, events: readonly ItemEvent[]): Step[] {
  let snapshot = before;
  return events.map((event) => {
    const step = { event, before: snapshot, after: applyEvent(snapshot, event) };
    snapshot = step.after;
    return step;
  });
}

/** Only the fields that differ; the version always does. */
function differences(before: ItemSnapshot, after: ItemSnapshot): Partial<ItemSnapshot> {
  return Object.fromEntries(
    Object.entries(after).filter(([field, value]) => before[field as keyof ItemSnapshot] !== value),
  );
}

const toldOf = (
  before: ItemSnapshot | null,
  after: ItemSnapshot,
  events: readonly ItemEvent[],
  depth: number,
) =>
  eventRowOf(
    after.projectId,
    {
      kind: "item changed",
      data: {
        itemId: after.id,
        fromVersion: before?.version ?? 0,
        version: after.version,
        kinds: [...new Set(events.map((e) => e.kind))],
        counts: changesCounts(events),
        depth,
      },
    },
    after.updatedAt,
  );

async function passageRows(
  tx: Transaction,
  before: ItemSnapshot | null,
  events: readonly ItemEvent[],
  after: ItemSnapshot,
): Promise<JsonRecord[]> {
  const passage = passageIn(before, events, after);
  if (!passage) return [];
  const { id: itemId, projectId } = after;
  const times =
    passage.kind === "delivered" ? await timesUntil(tx, before!, events, passage.at) : null;
  return [jsonRecord(flowPassage, { ...passage, itemId, projectId, times })];
}

/** How long an item had been in each state when it was delivered: its last stay ends then. */
async function timesUntil(
  tx: Transaction,
  before: ItemSnapshot,
  events: readonly ItemEvent[],
  at: number,
): Promise<StateTimes> {
  const rows = await tx.select().from(stay).where(eq(stay.itemId, before.id));
  const move = events.find((e) => e.kind === "moved")!;
  return stateTimes(
    rows.map(({ enteredAt: from, leftAt, blockedMs, ...rest }) => ({
      ...rest,
      from,
      to: leftAt ?? at,
      blockedMs: blockedMs + (leftAt === null ? blockedEndedBy(before, move) : 0),
    })),
  );
}

const iso = (at: number) => new Date(at).toISOString();

/** Adds what an event means beyond the snapshot and the history. */
function addConsequence(written: Written, { event, before, after }: Step): void {
  const { itemId, at, seq, actorId } = event;
  const blockedMs = before ? blockedEndedBy(before, event) : 0;
  if (blockedMs > 0)
    written.open = { ...written.open, blocked_ms: (written.open?.blocked_ms ?? 0) + blockedMs };
  switch (event.kind) {
    case "created":
    case "moved": {
      const { stateId } = event.new;
      const kind = event.kind === "created" ? event.new.stateKind : event.new.kind;
      if (before) written.open = { ...written.open, left_at: iso(at) };
      const outcome = kind === "finished" ? after.outcome : null;
      const { projectId } = after;
      if (event.kind === "created")
        for (const box of BOXES) enterBox(written, event, box, after[FIELD_OF_BOX[box]], after);
      const entered = { itemId, projectId, enteredSeq: seq, stateId, kind, outcome, enteredAt: at };
      written.stays.push(jsonRecord(stay, { ...entered, leftAt: null, blockedMs: 0 }));
      return;
    }
    case "withdrawn":
      written.open = { ...written.open, left_at: iso(at) };
      for (const box of BOXES)
        if (before?.[FIELD_OF_BOX[box]] != null) leaveBox(written, event, box, before);
      return;
    case "commented": {
      const { commentId: id, body } = event.new;
      written.comments.push(jsonRecord(comment, { id, itemId, authorId: actorId, body, at }));
      return;
    }
    case "blocked": {
      const { blockId: id, cause, waitingFor } = event.new;
      const began = { id, itemId, cause, waitingFor, byId: actorId, fromAt: at, liftedAt: null };
      written.blocks.push(jsonRecord(block, began));
      return;
    }
    case "lifted":
      written.lifted.push({ id: event.old.blockId, at: iso(at) });
      return;
    case "linked": {
      const { linkId: id, otherId: toItemId, kind, outward } = event.new;
      const link = { id, fromItemId: after.id, toItemId, kind };
      if (outward) written.links.push(jsonRecord(itemLink, link));
      return;
    }
    case "unlinked":
      if (event.old.outward) written.unlinked.push(event.old.linkId);
      return;
    case "changed":
      if (event.field === "outcome") nameOutcome(written, after, at);
      changeBox(written, event, before!);
      return;
    case "undone":
    case "own changed":
    case "put under":
    case "reported":
    case "held":
    case "ranked":
    case "overrode":
    case "ticked":
    case "unticked":
    case "approved":
    case "approval withdrawn":
      return;
  }
}

/** A change of the sprint or the release ends one membership and begins another. */
function changeBox(written: Written, event: EventOf<"changed">, before: ItemSnapshot): void {
  const box = boxOfField(event.field);
  if (!box) return;
  if (event.old !== null) leaveBox(written, event, box, before);
  enterBox(written, event, box, event.new, before);
}

/** One that began in the same step ends with it; otherwise the one that is open does. */
function leaveBox(written: Written, event: ItemEvent, box: Box, before: ItemSnapshot): void {
  const ended = { at: iso(event.at), size: before.estimate, why: event.cause };
  const begun = written.boxesEntered.findLast((b) => b.box === box && b.to_at === null);
  if (begun)
    Object.assign(begun, { to_at: ended.at, size_at_end: ended.size, why_ended: ended.why });
  else written.boxesLeft.push({ box, ...ended });
}

function enterBox(
  written: Written,
  event: ItemEvent,
  box: Box,
  ...[boxId, { estimate }]: [unknown, ItemSnapshot]
): void {
  if (typeof boxId !== "string") return;
  const { itemId, seq: enteredSeq, at: fromAt, cause: why } = event;
  const began = { itemId, box, enteredSeq, boxId, fromAt, sizeAtStart: estimate, why };
  const open = { toAt: null, sizeAtEnd: null, whyEnded: null };
  written.boxesEntered.push(jsonRecord(boxMembership, { ...began, ...open }));
}

/** An outcome that is named after the move, in the same step, is that of the state just entered. */
function nameOutcome(written: Written, after: ItemSnapshot, at: number): void {
  const { stateKind, enteredStateAt, outcome } = after;
  if (stateKind !== "finished" || !namesOutcome(enteredStateAt, at, outcome)) return;
  const entered = written.stays.at(-1);
  if (entered) entered.outcome = outcome;
  else written.open = { ...written.open, outcome };
}

/**
 * Makes the stays, blocks, passages and memberships of some items again from their histories: after
 * an undone step they are what the history amounts to without that step.
 */
export async function rebuildFlow(
  tx: Transaction,
  items: readonly Pick<ItemSnapshot, "id" | "projectId">[],
): Promise<void> {
  const ids = items.map((i) => i.id);
  const events = await tx
    .select()
    .from(itemEvent)
    .where(inArray(itemEvent.itemId, ids))
    .orderBy(itemEvent.itemId, itemEvent.seq);
  const histories = new Map<string, ItemEvent[]>(ids.map((id) => [id, []]));
  for (const row of events) histories.get(row.itemId)!.push(eventOf(row));
  const rows = items.map((one) => flowRows(one, flowRecord(histories.get(one.id)!)));
  for (const table of [stay, block, flowPassage, boxMembership])
    await tx.delete(table).where(inArray(table.itemId, ids));
  const write = async <T>(all: T[], insert: (some: T[]) => Promise<unknown>) => {
    for (let i = 0; i < all.length; i += AT_ONCE) await insert(all.slice(i, i + AT_ONCE));
  };
  await write(
    rows.flatMap((r) => r.stays),
    (some) => tx.insert(stay).values(some),
  );
  await write(
    rows.flatMap((r) => r.blocks),
    (some) => tx.insert(block).values(some),
  );
  await write(
    rows.flatMap((r) => r.passages),
    (some) => tx.insert(flowPassage).values(some),
  );
  await write(
    rows.flatMap((r) => r.memberships),
    (some) => tx.insert(boxMembership).values(some),
  );
}

/** So many rows are written by one statement, which has a bound on its values. */
const AT_ONCE = 1_000;

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
  closed as (
    update stay s set
      left_at = coalesce(($1::jsonb #>> '{open,left_at}')::timestamptz, s.left_at),
      blocked_ms = s.blocked_ms + coalesce(($1::jsonb #>> '{open,blocked_ms}')::bigint, 0),
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

const STORE_CHANGE = namedSql(
  "store a change of an item",
  `with changed as (
    update item i set (${changeable.join(", ")}) = (
      select ${changed.join(", ")} from jsonb_populate_record(i, $1::jsonb -> 'item') r)
    where i.id = ($1::jsonb ->> 'itemId')::uuid),
  ${REST}`,
);

const STORE_NEW = namedSql(
  "store a new item",
  `with made as (insert into item select r.* from jsonb_populate_record(null::item, $1::jsonb -> 'item') r),
  known as (
    insert into item_key (prefix, number, item_id, since)
    select p.key, r.number, r.id, r.created_at
    from jsonb_populate_record(null::item, $1::jsonb -> 'item') r join project p on p.id = r.project_id),
  ${REST}`,
);
