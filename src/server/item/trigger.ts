import { cutText } from "@/core/formats/cut-text";
import { createHash } from "node:crypto";
import { and, eq, gt, inArray, isNull, lte, or, sql, type SQL } from "drizzle-orm";
import { DAY, type Instant } from "@/core/calendar/instant";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import type { EventDataOf } from "@/core/events/catalogue";
import type { ItemEvent } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import { linkWords } from "@/core/item/link-way";
import { sourcesOf } from "@/core/workflow/graph";
import {
  LONGEST_CHAIN,
  occurrencesOf,
  triggeredTransition,
  waitsFor,
} from "@/core/workflow/occurrence";
import { occurrenceWords, type Occurrence } from "@/core/workflow/trigger";
import { requirementsOf } from "@/core/workflow/decide-move";
import { stateOf, type Transition, type Workflow } from "@/core/workflow/workflow";
import type { Outcome, StateId } from "@/core/workflow/state";
import { database, isUnreachable, transact, type Reader } from "@/db/connection";
import {
  commandRecord,
  item,
  itemEvent,
  itemLink,
  itemType,
  project,
  workflow as workflowTable,
} from "@/db/schema";
import { namedQuery } from "@/db/statement";
import { log, traced } from "../log";
import { AUTOMATION } from "../people/viewer";
import { Refused } from "../refused";
import { loadWorkflows, publishedWorkflow } from "../workflow/load";
import { recordCommand } from "./command-key";
import { throughDoor } from "./door";
import { enterItem } from "./enter";
import { eventsBetween } from "./history";
import { snapshotOf } from "./rows";

/** An occurrence and the item whose moves may wait for it. */
interface Due {
  itemId: string;
  occurrence: Occurrence;
}

/**
 * What an announced change of an item sets off: moves of itself, of the item above it and of those
 * below it. Each is made in a transaction of its own, once, whatever happens to the worker in
 * between.
 * @returns how many moves were made
 */
export async function fireTriggers(
  eventId: number,
  changed: EventDataOf<"item changed">,
): Promise<number> {
  let made = 0;
  const chain = { depth: changed.depth + 1, setOffBy: changed.byId };
  const met = new Map<string, number>();
  for (const { itemId, occurrence } of await dueAfter(database(), changed)) {
    const what = `outbox ${eventId} ${itemId} ${occurrence.kind}`;
    const times = met.get(what) ?? 0;
    met.set(what, times + 1);
    // The same may happen several times at once: it is deployed to two places.
    const key = times === 0 ? what : `${what} ${times}`;
    if (await moveByTrigger(itemId, occurrence, chain, key)) made += 1;
  }
  return made;
}

const CHANGED = namedQuery("an item that changed, with its process", (reader) =>
  reader
    .select({
      ...{ item, projectKey: project.key },
      ...{ workflowId: workflowTable.id, version: workflowTable.version },
    })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .innerJoin(workflowTable, eq(workflowTable.id, itemType.workflowId))
    .where(eq(item.id, sql.placeholder("itemId"))),
);

async function dueAfter(
  reader: Reader,
  { itemId, fromVersion, version }: EventDataOf<"item changed">,
): Promise<Due[]> {
  const [row] = await CHANGED(reader, { itemId });
  if (!row || row.item.withdrawnAt !== null) return [];
  const events = await eventsBetween(reader, { itemId, fromVersion, version });
  const after = snapshotOf(row.item);
  const workflow = await publishedWorkflow(reader, row.workflowId, row.version);
  const due: Due[] = occurrencesOf(events, after, await wasAssigned(reader, itemId, events))
    .filter(({ kind }) => waitsFor(workflow, kind))
    .map((occurrence) => ({ itemId, occurrence }));
  if (
    !events.some(
      (e) => e.kind === "moved" && e.new.kind === "finished" && e.old.kind !== "finished",
    ) ||
    after.stateKind !== "finished"
  )
    return due;
  due.push(...(await linkedTo(reader, after, row.projectKey)));
  const below = await reader
    .select({ id: item.id })
    .from(item)
    .where(
      and(
        eq(item.parentId, itemId),
        isNull(item.withdrawnAt),
        sql`${item.stateKind} <> 'finished'`,
      ),
    );
  for (const child of below)
    due.push({
      itemId: child.id,
      occurrence: { kind: "parent finished", parentKey: `${row.projectKey}-${after.number}` },
    });
  if (after.parentId !== null) {
    const [{ open }] = await reader
      .select({ open: sql<number>`(count(*) filter (where ${item.stateKind} <> 'finished'))::int` })
      .from(item)
      .where(and(eq(item.parentId, after.parentId), isNull(item.withdrawnAt)));
    if (open === 0)
      due.push({ itemId: after.parentId, occurrence: { kind: "sub-tasks finished" } });
  }
  return due;
}

/** Whether an item at the other end of a link has ended. */
const hasEnded = sql`(${item.stateKind} = 'finished' or ${item.withdrawnAt} is not null)`;

/** The items for which something that has ended was the last that they are linked to in one way. */
async function linkedTo(reader: Reader, ended: ItemSnapshot, projectKey: string): Promise<Due[]> {
  const links = await reader
    .select()
    .from(itemLink)
    .where(or(eq(itemLink.fromItemId, ended.id), eq(itemLink.toItemId, ended.id)));
  const due: Due[] = [];
  for (const { fromItemId, toItemId, kind } of links) {
    const outward = toItemId === ended.id;
    const itemId = outward ? fromItemId : toItemId;
    const [here, there] = outward
      ? [itemLink.fromItemId, itemLink.toItemId]
      : [itemLink.toItemId, itemLink.fromItemId];
    const [all] = await reader
      .select({
        open: sql<number>`(count(*) filter (where not ${hasEnded}))::int`,
        undelivered: sql<number>`(count(*) filter (where ${item.deliveredAt} is null))::int`,
      })
      .from(itemLink)
      .innerJoin(item, eq(item.id, there))
      .where(and(eq(here, itemId), eq(itemLink.kind, kind)));
    if (all.open > 0) continue;
    const way = linkWords({ kind, otherKey: "", outward });
    const key = `${projectKey}-${ended.number}`;
    const delivered = all.undelivered === 0;
    due.push({ itemId, occurrence: { kind: "linked ended", way, key, delivered } });
  }
  return due;
}

/** Whether anybody had the item before these events. */
async function wasAssigned(
  reader: Reader,
  itemId: string,
  events: readonly ItemEvent[],
): Promise<boolean> {
  const given = events.find(
    (e) => e.kind === "changed" && e.field === "assigneeId" && e.new !== null,
  );
  if (!given) return true;
  const [earlier] = await reader
    .select({ seq: itemEvent.seq })
    .from(itemEvent)
    .where(
      and(
        eq(itemEvent.itemId, itemId),
        sql`${itemEvent.seq} < ${given.seq}`,
        sql`((${itemEvent.kind} = 'changed' and ${itemEvent.field} = 'assigneeId') or (${itemEvent.kind} = 'created' and jsonb_typeof(${itemEvent.new} -> 'assigneeId') = 'string'))`,
      ),
    )
    .limit(1);
  return earlier !== undefined;
}

/** What led to a move that happens by itself. */
interface Chain {
  /** How many moves in a row happened by themselves, this one included. */
  depth: number;
  /** The person whose doing set it off. */
  setOffBy: string | null;
}

/**
 * Makes the move that an occurrence triggers, if there is one out of where the item is. A move that
 * its own rules refuse is not made, and the item's history says why.
 * @param chain what led to it
 * @param key the same for the same occurrence: it is carried out once
 * @returns whether a move was made
 */
export async function moveByTrigger(
  itemId: string,
  occurrence: Occurrence,
  { depth, setOffBy }: Chain,
  key: string,
): Promise<boolean> {
  const commandId = uuidOf(key);
  const attempt = () =>
    transact(async (tx) => {
      const entered = await enterItem(tx, AUTOMATION, itemId, "move item");
      const { before, workflow } = entered;
      const transition =
        before.withdrawnAt === null ? triggeredTransition(workflow, before, occurrence) : undefined;
      if (
        !transition ||
        !(await recordCommand(tx, commandId, null, { itemId, what: `trigger ${itemId}` }))
      )
        return false;
      if (depth > LONGEST_CHAIN)
        throw new Held(
          transition,
          `${LONGEST_CHAIN} moves in a row have happened by themselves. The next waits for somebody to look.`,
        );
      const because = occurrenceWords(occurrence);
      try {
        await throughDoor(tx, AUTOMATION, {
          on: entered,
          commandId,
          ask: {
            kind: "move",
            from: before.stateId,
            to: transition.to,
            answers: answersOf(workflow, before.stateId, transition, because),
          },
          made: { cause: "trigger", because, depth, setOffBy },
        });
      } catch (error) {
        if (error instanceof Refused)
          throw new Held(transition, `${because} ${error.refusal.sentence} ${error.refusal.help}`);
        throw error;
      }
      return true;
    });
  try {
    return await attempt();
  } catch (error) {
    if (error instanceof Held) return hold(itemId, commandId, error);
    // What nobody may do there the process does not do either.
    if (error instanceof Refused && ["not found", "put away"].includes(error.refusal.code))
      return false;
    throw error;
  }
}

/** A move that should have happened by itself and was not allowed. */
class Held extends Error {
  constructor(
    readonly transition: Transition,
    readonly note: string,
  ) {
    super(note);
  }
}

async function hold(itemId: string, commandId: string, { transition, note }: Held): Promise<false> {
  await transact(async (tx) => {
    const entered = await enterItem(tx, AUTOMATION, itemId, "move item");
    if (!(await recordCommand(tx, commandId, null, { itemId, what: `trigger ${itemId}` }))) return;
    const { id: transitionId, to } = transition;
    await throughDoor(tx, AUTOMATION, {
      on: entered,
      commandId,
      ask: {
        kind: "prepared",
        command: { kind: "hold", transitionId, to, note: cutText(note, 1_000) },
      },
      made: { cause: "trigger" },
      ifRefused: "leave",
    });
  });
  return false;
}

/**
 * What happened is the reason and the comment that a move asks for; an outcome is named where there
 * is no choice, or where it is delivered.
 */
function answersOf(
  workflow: Workflow,
  from: StateId,
  transition: Transition,
  because: string,
): { reason: string; comment: string; outcome?: Outcome } {
  const [here, there] = [stateOf(workflow, from), stateOf(workflow, transition.to)];
  const wanted = requirementsOf(transition, here, there).find((r) => r.kind === "outcome");
  const outcome =
    wanted?.allowed.find((o) => o === "delivered") ??
    (wanted?.allowed.length === 1 ? wanted.allowed[0] : undefined);
  return { reason: because, comment: because, ...(outcome ? { outcome } : {}) };
}

/** A UUID (version 8 of RFC 9562) that is the same for the same text. */
function uuidOf(text: string): string {
  const hex = createHash("sha256").update(text).digest("hex");
  const variant = ((parseInt(hex[16], 16) & 0x3) | 0x8).toString(16);
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-${variant}${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

const AT_ONCE = 200;

/**
 * Makes the moves that time triggers: so many days in a state, a date that is reached. A move that
 * was not allowed is tried again the next day, and keeps no other waiting.
 */
export async function fireTimers(now: Instant = Date.now()): Promise<number> {
  const db = database();
  let made = 0;
  const projects = await db.select({ id: project.id, zone: project.zone }).from(project);
  for (const { id: projectId, zone } of projects) {
    const types = await db
      .select({ id: itemType.id, workflowId: itemType.workflowId })
      .from(itemType)
      .where(eq(itemType.projectId, projectId));
    const workflows = await loadWorkflows(db, [...new Set(types.map((t) => t.workflowId))]);
    const today = dayNumber(now, zone);
    for (const workflow of workflows.values())
      for (const { transition, occurrence } of timersOf(workflow)) {
        const reached =
          occurrence.kind === "days in state"
            ? lte(item.enteredStateAt, now - occurrence.days * DAY)
            : sql`${item.dueOn} <= ${isoDate(today)}`;
        const typeIds = types.filter((t) => t.workflowId === workflow.id).map((t) => t.id);
        const where = and(
          eq(item.projectId, projectId),
          isNull(item.withdrawnAt),
          inArray(item.typeId, typeIds),
          inArray(item.stateId, sourcesOf(workflow, transition)),
          reached,
        )!;
        for await (const due of dueItems(db, where))
          for (const { itemId, key } of await notTried(
            db,
            due.map((d) => ({ itemId: d.id, key: timerKey(d, transition, occurrence, today) })),
          ))
            if (await moveOrTell(itemId, occurrence, key)) made += 1;
      }
  }
  return made;
}

interface Timed {
  itemId: string;
  /** The same for the same occurrence. */
  key: string;
}

/** Those whose move was neither made nor refused yet. */
async function notTried(db: Reader, timed: readonly Timed[]): Promise<Timed[]> {
  const rows = await db
    .select({ id: commandRecord.id })
    .from(commandRecord)
    .where(
      inArray(
        commandRecord.id,
        timed.map((t) => uuidOf(t.key)),
      ),
    );
  const tried = new Set(rows.map((r) => r.id));
  return timed.filter((t) => !tried.has(uuidOf(t.key)));
}

/** One item that cannot be moved for a fault of ours keeps no other waiting. */
async function moveOrTell(itemId: string, occurrence: Occurrence, key: string): Promise<boolean> {
  try {
    return await moveByTrigger(itemId, occurrence, { depth: 1, setOffBy: null }, key);
  } catch (error) {
    if (isUnreachable(error)) throw error;
    log.error({ ...traced(error), itemId }, "a move that was due could not be made");
    return false;
  }
}

/** Items in the order in which they came to their state, some at once. */
async function* dueItems(db: Reader, where: SQL): AsyncGenerator<ItemSnapshot[]> {
  let after: SQL | undefined;
  for (;;) {
    const rows = await db
      .select()
      .from(item)
      .where(and(where, after))
      .orderBy(item.enteredStateAt, item.id)
      .limit(AT_ONCE);
    if (rows.length === 0) return;
    yield rows.map(snapshotOf);
    if (rows.length < AT_ONCE) return;
    const { enteredStateAt, id } = rows.at(-1)!;
    after = or(
      gt(item.enteredStateAt, enteredStateAt),
      and(eq(item.enteredStateAt, enteredStateAt), gt(item.id, id)),
    );
  }
}

function timersOf(workflow: Workflow): {
  transition: Transition;
  occurrence: Extract<Occurrence, { kind: "days in state" | "date reached" }>;
}[] {
  return workflow.transitions.flatMap((transition) =>
    transition.triggers.flatMap((t) =>
      t.kind === "days in state" || t.kind === "date reached"
        ? [{ transition, occurrence: t }]
        : [],
    ),
  );
}

/**
 * A date triggers once, however often the item comes back; days in a state once a stay, or once a
 * day while it is held.
 */
function timerKey(
  due: ItemSnapshot,
  transition: Transition,
  occurrence: Occurrence,
  today: number,
): string {
  const what = `timer ${due.id} ${transition.id} ${occurrence.kind}`;
  return occurrence.kind === "date reached"
    ? `${what} ${due.dueOn}`
    : `${what} ${due.enteredStateAt} ${today}`;
}
