import { eq } from "drizzle-orm";
import type { EventOf, ItemEvent } from "@/core/item/event";
import { changesCounts } from "@/core/item/event-counts";
import type { ItemSnapshot } from "@/core/item/fields";
import {
  blockedEndedBy,
  passageIn,
  readyEndedBy,
  stateTimes,
  type StateTimes,
} from "@/core/item/passage";
import { applyEvent } from "@/core/item/snapshot";
import { timeboxOfField, TIMEBOXES, FIELD_OF_TIMEBOX, type Timebox } from "@/core/plan/membership";
import { namesOutcome } from "@/core/item/start-finish";
import { NOBODY_NAMED } from "@/core/talk/comment";
import type { Transaction } from "@/db/connection";
import { jsonRecord, type JsonRecord } from "@/db/record";
import {
  block,
  timeboxMembership,
  comment,
  domainEvent,
  flowPassage,
  item,
  itemEvent,
  itemLink,
  timeEntry,
  itemText,
  stay,
} from "@/db/schema";
import { eventRowOf } from "../events/announce";
import { emptyStored } from "./store-emptied";
import { eventRows } from "./rows";
import { rebuildFlow } from "./store-flow";
import {
  asGiven,
  nothingWritten,
  STORE_CHANGE,
  STORE_CHANGES,
  STORE_NEW,
  writtenTogether,
  type OpenStay,
  type Written,
} from "./store-statement";

/** What a command came to for one item. */
export interface Storable {
  before: ItemSnapshot | null;
  events: readonly ItemEvent[];
  /** The snapshot after the events. */
  after: ItemSnapshot;
  /** How many moves in a row happened by themselves, for what these events set off. */
  depth?: number;
  /** The person whose doing set it off. */
  setOffBy?: string | null;
}

/**
 * Stores events of some items, each of which is among them once: the new snapshots, the histories,
 * the stays, blocks, passages and memberships that measures read, and what is told of them, in one
 * statement of the caller's transaction for those that are new, and one for the others. The one
 * place that writes any of them, with the files named after it.
 */
export async function storeEvents(tx: Transaction, all: readonly Storable[]): Promise<void> {
  const parts = { made: [] as Written[], changed: [] as Written[] };
  for (const one of all)
    if (one.events.length > 0)
      parts[one.before ? "changed" : "made"].push(await writtenOf(tx, one));
  if (parts.made.length > 0) await STORE_NEW(tx, given(parts.made));
  if (parts.changed.length > 0) {
    const store = parts.changed.length === 1 ? STORE_CHANGE : STORE_CHANGES;
    await store(tx, given(parts.changed));
  }
  const events = all.flatMap((one) => one.events);
  for (const event of events) if (event.kind === "emptied") await emptyStored(tx, event);
  const undone = all.filter((one) => one.events.some((e) => e.kind === "undone"));
  if (undone.length > 0)
    await rebuildFlow(
      tx,
      undone.map(({ after }) => after),
    );
}

/** What a comment says of itself where nobody says more. */
const A_COMMENT = {
  answersId: null,
  spot: null,
  named: NOBODY_NAMED,
  asks: [],
  audience: "team",
  editedAt: null,
  goneAt: null,
  goneBy: null,
  whyGone: null,
} as const;

const given = (parts: readonly Written[]) => asGiven(writtenTogether(parts));

/** What events of one item write. */
async function writtenOf(tx: Transaction, one: Storable): Promise<Written> {
  const { before, events, after } = one;
  const rows = events.map(eventRows);
  const written: Written = {
    ...nothingWritten(),
    items: { [after.id]: jsonRecord(item, before ? differences(before, after) : after) },
    events: rows.map((r) => jsonRecord(itemEvent, r.row)),
    texts: rows.flatMap((r) => r.texts.map((t) => jsonRecord(itemText, t))),
    told: [toldOf(one), ...leftBehind(one)].map((row) => jsonRecord(domainEvent, row)),
    passages: await passageRows(tx, before, events, after),
  };
  for (const step of stepsOf(before, events)) addConsequence(written, step);
  return written;
}

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

const toldOf = ({ before, after, events, depth = 0, setOffBy }: Storable) =>
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
        byId: events[0].actorId ?? setOffBy ?? null,
      },
    },
    after.updatedAt,
  );

/** The project that an item has left is told, too: what shows it there shows it no more. */
const leftBehind = ({ before, after }: Storable) =>
  before && before.projectId !== after.projectId
    ? [
        eventRowOf(
          before.projectId,
          { kind: "item left", data: { itemId: after.id } },
          after.updatedAt,
        ),
      ]
    : [];

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
    rows.map(({ enteredAt: from, leftAt, blockedMs, readyMs, ...rest }) => ({
      ...rest,
      from,
      to: leftAt ?? at,
      blockedMs: blockedMs + (leftAt === null ? blockedEndedBy(before, move) : 0),
      readyMs: readyMs + (leftAt === null ? readyEndedBy(before, move) : 0),
    })),
  );
}

const iso = (at: number) => new Date(at).toISOString();

/** Adds what an event means beyond the snapshot and the history. */
function addConsequence(written: Written, { event, before, after }: Step): void {
  const { itemId, at, seq, actorId } = event;
  if (before) addPauses(written, before, event);
  switch (event.kind) {
    case "created":
    case "moved": {
      const { stateId } = event.new;
      const kind = event.kind === "created" ? event.new.stateKind : event.new.kind;
      if (before) openStay(written, itemId).left_at = iso(at);
      const outcome = kind === "finished" ? after.outcome : null;
      const { projectId } = after;
      if (event.kind === "created")
        for (const box of TIMEBOXES)
          enterTimebox(written, event, box, after[FIELD_OF_TIMEBOX[box]], after);
      const entered = { itemId, projectId, enteredSeq: seq, stateId, kind, outcome, enteredAt: at };
      written.stays.push(jsonRecord(stay, { ...entered, leftAt: null, blockedMs: 0, readyMs: 0 }));
      return;
    }
    case "withdrawn":
      openStay(written, itemId).left_at = iso(at);
      for (const box of TIMEBOXES)
        if (before?.[FIELD_OF_TIMEBOX[box]] != null) leaveTimebox(written, event, box, before);
      return;
    case "brought back": {
      const { stateId, stateKind: kind, projectId } = after;
      const entered = { itemId, projectId, enteredSeq: seq, stateId, kind, enteredAt: at };
      const open = { outcome: null, leftAt: null, blockedMs: 0, readyMs: 0 };
      written.stays.push(jsonRecord(stay, { ...entered, ...open }));
      for (const box of TIMEBOXES)
        enterTimebox(written, event, box, after[FIELD_OF_TIMEBOX[box]], after);
      return;
    }
    case "commented": {
      const { commentId: id, ...said } = event.new;
      written.comments.push(
        jsonRecord(comment, { ...A_COMMENT, ...said, id, itemId, authorId: actorId, at }),
      );
      return;
    }
    case "comment edited": {
      const { commentId: id, body, named } = event.new;
      written.recomments.push({ item_id: itemId, id, body, named, edited_at: iso(at) });
      return;
    }
    case "comment taken back": {
      const gone = { gone_at: iso(at), gone_by: actorId, why_gone: event.note };
      written.recomments.push({ item_id: itemId, id: event.new.commentId, body: "", ...gone });
      return;
    }
    case "time recorded": {
      const entry = event.new ?? event.old!;
      const { entryId: id, personId, on, minutes, note } = entry;
      const goneAt = event.new === null ? at : null;
      written.times.push(
        jsonRecord(timeEntry, { id, itemId, personId, on, minutes, note, at, goneAt }),
      );
      return;
    }
    case "talk closed":
      written.talk.push({ item_id: itemId, closing: event.new });
      return;
    case "blocked": {
      const { blockId: id, cause, waitingFor, dependency } = event.new;
      const dependencyId = dependency?.itemId ?? null;
      const began = { id, itemId, cause, waitingFor, dependencyId, byId: actorId, fromAt: at };
      written.blocks.push(jsonRecord(block, { ...began, liftedAt: null }));
      return;
    }
    case "lifted":
      written.lifted.push({ item_id: itemId, id: event.old.blockId, at: iso(at) });
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
      changeTimebox(written, event, before!);
      return;
    case "file added":
    case "file removed":
    case "marked ready":
    case "ready taken back":
    case "undone":
    case "own changed":
    case "put under":
    case "reported":
    case "held":
    case "ranked":
    case "overrode":
    case "emptied":
    case "changed project":
    case "ticked":
    case "unticked":
    case "approved":
    case "approval withdrawn":
      return;
  }
}

/** Adds what an event ends of being blocked or ready to the stay that is open before it. */
function addPauses(written: Written, before: ItemSnapshot, event: ItemEvent): void {
  const [blockedMs, readyMs] = [blockedEndedBy(before, event), readyEndedBy(before, event)];
  if (blockedMs + readyMs === 0) return;
  const open = openStay(written, before.id);
  open.blocked_ms = (open.blocked_ms ?? 0) + blockedMs;
  open.ready_ms = (open.ready_ms ?? 0) + readyMs;
}

/** What is written of the stay of an item that was open before. */
function openStay(written: Written, itemId: string): OpenStay {
  return (written.open[itemId] ??= {});
}

/** A change of the sprint or the release ends one membership and begins another. */
function changeTimebox(written: Written, event: EventOf<"changed">, before: ItemSnapshot): void {
  const box = timeboxOfField(event.field);
  if (!box) return;
  if (event.old !== null) leaveTimebox(written, event, box, before);
  enterTimebox(written, event, box, event.new, before);
}

/** One that began in the same step ends with it; otherwise the one that is open does. */
function leaveTimebox(
  written: Written,
  event: ItemEvent,
  box: Timebox,
  before: ItemSnapshot,
): void {
  const ended = { at: iso(event.at), size: before.estimate, why: event.cause };
  const begun = written.boxesEntered.findLast((b) => b.box === box && b.to_at === null);
  if (begun)
    Object.assign(begun, { to_at: ended.at, size_at_end: ended.size, why_ended: ended.why });
  else written.boxesLeft.push({ item_id: event.itemId, box, ...ended });
}

function enterTimebox(
  written: Written,
  event: ItemEvent,
  box: Timebox,
  ...[boxId, { estimate }]: [unknown, ItemSnapshot]
): void {
  if (typeof boxId !== "string") return;
  const { itemId, seq: enteredSeq, at: fromAt, cause: why } = event;
  const began = { itemId, box, enteredSeq, boxId, fromAt, sizeAtStart: estimate, why };
  const open = { toAt: null, sizeAtEnd: null, whyEnded: null };
  written.boxesEntered.push(jsonRecord(timeboxMembership, { ...began, ...open }));
}

/** An outcome that is named after the move, in the same step, is that of the state just entered. */
function nameOutcome(written: Written, after: ItemSnapshot, at: number): void {
  const { stateKind, enteredStateAt, outcome } = after;
  if (stateKind !== "finished" || !namesOutcome(enteredStateAt, at, outcome)) return;
  const entered = written.stays.at(-1);
  if (entered) entered.outcome = outcome;
  else Object.assign(openStay(written, after.id), { outcome });
}
