import { receiptOf } from "../intake/report-promises";
import { and, eq, isNull, or, sql } from "drizzle-orm";
import type { CloudEvent } from "@/core/formats/cloud-event";
import { readDeliveryEvent, type DeliveryNews } from "@/core/formats/delivery-event";
import { readReportEvent, type ReportNews } from "@/core/formats/report-event";
import { database, transact, type Transaction } from "@/db/connection";
import { eventSource, item, project, receivedEvent } from "@/db/schema";
import { storeReport } from "../intake/new-report";
import { throughDoor } from "../item/door";
import { enterItem } from "../item/enter";
import { hasKeyAmong } from "../item/key";
import { writeToRequester } from "../mail/write";
import { AUTOMATION } from "../people/viewer";
import { countUse } from "../rate-limit";
import { isSigned, type SignedHeaders } from "./signature";
import { v7 as newId } from "uuid";

/** What became of posted events. */
export interface Taken {
  /** Items that something was learnt about, by their keys. */
  items: string[];
  /** Reports that came of them, by their references. */
  reports: string[];
  /** Events that were taken before, or that say nothing the project has a use for. */
  passedOver: number;
}

const MINUTE = 60_000;
const POSTS_A_MINUTE = 600;
/** From one address, whatever source it names. */
const ATTEMPTS_A_MINUTE = 1_200;

export type Entered =
  | { kind: "source"; id: string; projectId: string; name: string }
  | { kind: "unknown" }
  | { kind: "too many"; retryAfter: number };

/**
 * The source that a signed request comes from. Whether the source is unknown or the signature wrong
 * is not told apart.
 */
export async function enterSource({
  sourceId,
  headers,
  body,
  address = "unknown",
  now = Date.now(),
}: {
  sourceId: string;
  headers: SignedHeaders;
  body: string;
  address?: string;
  now?: number;
}): Promise<Entered> {
  const attempts = await countUse({
    key: `events from ${address.slice(0, 64)}`,
    limit: ATTEMPTS_A_MINUTE,
    windowMs: MINUTE,
    now,
  });
  if (!attempts.allowed) return { kind: "too many", retryAfter: attempts.retryAfter };
  const [source] = await database()
    .select()
    .from(eventSource)
    .where(and(eq(eventSource.id, sourceId.slice(0, 64)), isNull(eventSource.removedAt)));
  if (!source || !isSigned(source.secret, headers, body, now)) return { kind: "unknown" };
  // Counted only when it is signed: nobody else can use up what a source may send.
  const use = await countUse({
    key: `events ${source.id}`,
    limit: POSTS_A_MINUTE,
    windowMs: MINUTE,
    now,
  });
  if (!use.allowed) return { kind: "too many", retryAfter: use.retryAfter };
  return { kind: "source", id: source.id, projectId: source.projectId, name: source.name };
}

/** Takes in what a source says: each event once, each as an event of the items it is about. */
export async function takeEvents(
  source: { id: string; projectId: string; name: string },
  events: readonly CloudEvent[],
  now = Date.now(),
): Promise<Taken> {
  // Read before anything is stored: a bad one among them leaves nothing behind.
  const news = events.map((event) => ({
    event,
    said: readDeliveryEvent(event),
    report: readReportEvent(event),
  }));
  const taken: Taken = { items: [], reports: [], passedOver: 0 };
  for (const { event, said, report } of news) {
    const keys = said ? await takeOne(source, identityOf(event), said, now) : [];
    const reference = report ? await takeReport(source, identityOf(event), report, now) : null;
    if (keys.length === 0 && reference === null) taken.passedOver += 1;
    if (reference !== null) taken.reports.push(reference);
    taken.items.push(...keys);
  }
  await database()
    .update(eventSource)
    .set({ lastHeardAt: now })
    .where(eq(eventSource.id, source.id));
  return { ...taken, items: [...new Set(taken.items)] };
}

/**
 * What makes an event the same one (CloudEvents 1.0, "id"): both stand in the body that is signed.
 */
const identityOf = (event: CloudEvent): string => `${event.source} ${event.id}`;

const isFresh = async (tx: Transaction, sourceId: string, eventId: string, now: number) =>
  (
    await tx
      .insert(receivedEvent)
      .values({ sourceId, eventId, at: now })
      .onConflictDoNothing()
      .returning({ id: receivedEvent.eventId })
  ).length > 0;

/**
 * A report from another program stands in the queue like any other. @returns its reference; null
 * where it was taken before
 */
async function takeReport(
  source: { id: string; projectId: string },
  eventId: string,
  news: ReportNews,
  now: number,
): Promise<string | null> {
  return transact(async (tx) => {
    if (!(await isFresh(tx, source.id, eventId, now))) return null;
    const row = await storeReport({
      tx,
      projectId: source.projectId,
      incoming: { ...news, happened: news.happened || news.title, way: "event" },
      files: [],
      now,
    });
    await writeToRequester(tx, row, await receiptOf(tx, row, "", now), { now });
    return row.reference;
  });
}

async function takeOne(
  source: { id: string; projectId: string; name: string },
  eventId: string,
  said: DeliveryNews,
  now: number,
): Promise<string[]> {
  return transact(async (tx) => {
    if (!(await isFresh(tx, source.id, eventId, now))) return [];
    const meant = await itemsMeant(tx, source.projectId, said);
    for (const { id } of meant) {
      const command = { kind: "report" as const, fact: said.fact, source: source.name };
      await throughDoor(tx, AUTOMATION, {
        on: await enterItem(tx, AUTOMATION, id, "edit item"),
        commandId: newId(),
        ask: { kind: "prepared", command },
        made: { cause: "outside" },
        ifRefused: "leave",
      });
    }
    return meant.map((m) => m.key);
  });
}

/**
 * Items that are named by their key, or that belong to a change that is meant; in the order of
 * their ids, so that nobody waits in a circle.
 */
async function itemsMeant(
  tx: Transaction,
  projectId: string,
  { itemKeys, changes }: DeliveryNews,
): Promise<{ id: string; key: string }[]> {
  const [{ key }] = await tx
    .select({ key: project.key })
    .from(project)
    .where(eq(project.id, projectId));
  if (itemKeys.length === 0 && changes.length === 0) return [];
  const ofChange = changes.map(
    (id) => sql`${item.outside} -> 'changes' @> ${JSON.stringify([{ id }])}::jsonb`,
  );
  const rows = await tx
    .select({ id: item.id, number: item.number })
    .from(item)
    .where(
      and(
        eq(item.projectId, projectId),
        isNull(item.withdrawnAt),
        or(hasKeyAmong(itemKeys), ...ofChange),
      ),
    )
    .orderBy(item.id)
    .limit(200);
  return rows.map(({ id, number }) => ({ id, key: `${key}-${number}` }));
}
