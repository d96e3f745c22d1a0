import { receiptOf } from "../intake/report-promises";
import { and, eq, isNull } from "drizzle-orm";
import { readCodeEvent } from "@/core/ship/code-event";
import { readPipelineEvent } from "@/core/ship/pipeline-event";
import { readTestEvent } from "@/core/ship/test-event";
import type { CloudEvent } from "@/core/formats/cloud-event";
import { readDeliveryEvent } from "@/core/formats/delivery-event";
import { readReportEvent, type ReportNews } from "@/core/formats/report-event";
import { database, transact } from "@/db/connection";
import { eventSource } from "@/db/schema";
import { storeReport } from "../intake/new-report";
import { writeToRequester } from "../mail/write";
import { countUse } from "../rate-limit";
import { isSigned, type SignedHeaders } from "./signature";
import { projectsOfSource, type Speaker } from "./speakers";
import { freshAmong } from "./fresh";
import { takeAllSaid, type Said } from "./take-said";

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
    id: identityOf(event),
    said: {
      code: readCodeEvent(event, now),
      pipeline: readPipelineEvent(event, now),
      tests: readTestEvent(event, now),
      news: readDeliveryEvent(event),
      at: event.time ? Date.parse(event.time) : now,
    },
    report: readReportEvent(event),
  }));
  const speaking = read.filter(({ said }) => isOfCode(said) || said.news !== null);
  const learnt = await takeAllSaid(source, speaking, now);
  const taken: Taken = { items: [], reports: [], passedOver: 0 };
  for (const one of read) {
    const { id, said, report } = one;
    const keys = learnt[speaking.indexOf(one)] ?? [];
    const reference = report ? await takeReport(source, id, report, now) : null;
    if (keys.length === 0 && reference === null && !isOfCode(said)) taken.passedOver += 1;
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

const isOfCode = ({ code, pipeline, tests }: Said): boolean =>
  code !== null || pipeline !== null || tests !== null;

/**
 * What makes an event the same one (CloudEvents 1.0, "id"): both stand in the body that is signed.
 */
const identityOf = (event: CloudEvent): string => `${event.source} ${event.id}`;

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
    if ((await freshAmong(tx, source.id, [eventId], now)).size === 0) return null;
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
