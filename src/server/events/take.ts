import { receiptOf } from "../intake/report-promises";
import { and, eq, isNull } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import { grouped } from "@/core/item/grouped";
import type { ChangeChecks, OutsideFact } from "@/core/item/outside";
import { readCodeEvent, type CodeNews } from "@/core/ship/code-event";
import { readPipelineEvent, type PipelineNews } from "@/core/ship/pipeline-event";
import { readTestEvent, type TestNews } from "@/core/ship/test-event";
import { waitsFor } from "@/core/workflow/occurrence";
import type { CloudEvent } from "@/core/formats/cloud-event";
import { readDeliveryEvent, type DeliveryNews } from "@/core/formats/delivery-event";
import { readReportEvent, type ReportNews } from "@/core/formats/report-event";
import { database, transact, type Transaction } from "@/db/connection";
import { eventSource, receivedEvent } from "@/db/schema";
import { takeCode, keepChecks } from "../ship/take-code";
import { takePipeline } from "../ship/take-pipeline";
import { takeTests } from "../ship/testing/take-tests";
import type { Told } from "../ship/item-code";
import { storeReport } from "../intake/new-report";
import { throughDoor } from "../item/door";
import { enterItem } from "../item/enter";
import { itemsNamed, itemsOfChanges, keysOfItems } from "../item/items-named";
import { writeToRequester } from "../mail/write";
import { AUTOMATION } from "../people/viewer";
import { countUse } from "../rate-limit";
import { isSigned, type SignedHeaders } from "./signature";
import { projectsOfSource, type Speaker } from "./speakers";
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
  | ({ kind: "source"; name: string } & Speaker)
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
  const { id, projectId, name } = source;
  const projectIds = (await projectsOfSource(database(), id)).map((one) => one.id);
  return { kind: "source", id, projectId, projectIds, name };
}

/** Takes in what a source says: each event once, each as an event of the items it is about. */
export async function takeEvents(
  source: Speaker & { name: string },
  events: readonly CloudEvent[],
  now = Date.now(),
): Promise<Taken> {
  // Read before anything is stored: a bad one among them leaves nothing behind.
  const read = events.map((event) => ({
    event,
    said: {
      code: readCodeEvent(event, now),
      pipeline: readPipelineEvent(event, now),
      tests: readTestEvent(event, now),
      news: readDeliveryEvent(event),
      at: event.time ? Date.parse(event.time) : now,
    },
    report: readReportEvent(event),
  }));
  const taken: Taken = { items: [], reports: [], passedOver: 0 };
  for (const { event, said, report } of read) {
    const ofCode = said.code !== null || said.pipeline !== null || said.tests !== null;
    const says = ofCode || said.news !== null;
    const keys = says ? await takeOne(source, identityOf(event), said, now) : [];
    const reference = report ? await takeReport(source, identityOf(event), report, now) : null;
    if (keys.length === 0 && reference === null && !ofCode) taken.passedOver += 1;
    // Results that have no name are said to have been passed over.
    taken.passedOver += said.tests?.left ?? 0;
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

/** What an event says: of a code host's doing, of a pipeline's, of what machines tried, of items. */
interface Said {
  code: CodeNews | null;
  pipeline: PipelineNews | null;
  tests: TestNews | null;
  news: DeliveryNews | null;
  at: Instant;
}

/** @returns the keys of the items that something was learnt about */
async function takeOne(
  source: Speaker & { name: string },
  eventId: string,
  said: Said,
  now: Instant,
): Promise<string[]> {
  return transact(async (tx) => {
    if (!(await isFresh(tx, source.id, eventId, now))) return [];
    const told = await learn(tx, source, said, now);
    // In the order of their ids, so that nobody waits in a circle.
    const byItem = [...grouped(told, ({ itemId }) => itemId)].toSorted(([a], [b]) =>
      a < b ? -1 : 1,
    );
    for (const [itemId, facts] of byItem)
      for (const { fact } of facts) await tellItem(tx, source, itemId, fact);
    return keysOfItems(
      tx,
      byItem.map(([itemId]) => itemId),
    );
  });
}

/** What items are to be told. What a code host says of its own names them by itself. */
async function learn(tx: Transaction, source: Speaker, said: Said, now: Instant): Promise<Told[]> {
  if (said.code) return takeCode(tx, source, said.code, now);
  if (said.tests) await takeTests(tx, source, said.tests, now);
  const known = said.pipeline ? await takePipeline(tx, source, said.pipeline, now) : [];
  const told = [...known, ...(await meant(tx, source.projectIds, said))];
  // Who is named, and is found by its commits too, is told once.
  return [...new Map(told.map((one) => [JSON.stringify(one), one])).values()];
}

/** Stores with an item what happened outside; what follows from it the worker does. */
async function tellItem(
  tx: Transaction,
  source: { name: string },
  itemId: string,
  fact: OutsideFact,
): Promise<void> {
  const outside = { made: { cause: "outside" }, ifRefused: "leave" } as const;
  const command = { kind: "report" as const, fact, source: source.name };
  const on = await enterItem(tx, AUTOMATION, itemId, "edit item");
  const ask = { kind: "prepared" as const, command };
  await throughDoor(tx, AUTOMATION, { on, commandId: newId(), ask, ...outside });
  if (fact.kind !== "commit says done" || waitsFor(on.workflow, fact.kind)) return;
  // The process names no move for it: the work in its state is done, and the next may pull it.
  await throughDoor(tx, AUTOMATION, {
    on: await enterItem(tx, AUTOMATION, itemId, "edit item"),
    commandId: newId(),
    ask: { kind: "prepared", command: { kind: "ready", on: true } },
    ...outside,
  });
}

const CHECKS: Partial<Record<OutsideFact["kind"], ChangeChecks>> = {
  "checks started": "running",
  "checks passed": "passed",
  "checks failed": "failed",
};

/**
 * Items that are named by their key, or that belong to a change that is meant, with what they are told.
 * What a pipeline says of commits that a change has left behind is not told.
 */
async function meant(
  tx: Transaction,
  projectIds: readonly string[],
  { news, at }: Said,
): Promise<Told[]> {
  if (news === null) return [];
  const { fact, itemKeys, changes, commit } = news;
  if ("change" in fact) {
    const { change } = fact;
    const checks = CHECKS[fact.kind];
    if (checks && !(await keepChecks(tx, projectIds, { change, checks, commit, at }))) return [];
  }
  const named = await itemsNamed(tx, projectIds, itemKeys);
  const ofChanges = await itemsOfChanges(tx, projectIds, changes);
  return [...new Set([...named.values(), ...ofChanges])].map((itemId) => ({ itemId, fact }));
}
