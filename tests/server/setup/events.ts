import { randomUUID } from "node:crypto";
import { and, asc, eq } from "drizzle-orm";
import { database } from "@/db/connection";
import type { EventDataOf } from "@/core/events/catalogue";
import { domainEvent } from "@/db/schema";
import { readCloudEvents } from "@/core/formats/cloud-event";
import { signatureOf } from "@/server/events/signature";
import { editSource } from "@/server/events/sources";
import { enterSource, takeEvents, type Taken } from "@/server/events/take";
import { consumeEvents } from "@/worker/consumers";
import { INES } from "./people";
import { unfollowed } from "./unfollowed";

let source: { id: string; secret: string } | null = null;

/** A source of TIX's events with its secret. */
export async function pipeline(): Promise<{ id: string; secret: string }> {
  return (source ??= (await editSource(INES, "TIX", { kind: "add", name: "Pipeline" })) as {
    id: string;
    secret: string;
  });
}

/** An event in the form of CDEvents. */
export function delivery(
  type: string,
  subject: { id: string; content?: object },
  customData: object = {},
  id = randomUUID(),
) {
  return {
    specversion: "1.0",
    id,
    source: "/pipeline",
    type: `dev.cdevents.${type}.0.3.0`,
    time: "2026-11-23T10:00:00Z",
    data: { context: { version: "0.4.1" }, subject: { content: {}, ...subject }, customData },
  };
}

/** Posts events as a source does, signed; what they set off is not done yet. */
export async function post(...events: object[]): Promise<Taken> {
  const { id, secret } = await pipeline();
  const body = JSON.stringify(events);
  const timestamp = String(Math.floor(Date.now() / 1000));
  const entered = await enterSource({
    sourceId: id,
    headers: { id: "msg", timestamp, signature: signatureOf(secret, "msg", timestamp, body) },
    body,
  });
  if (entered.kind !== "source") throw new Error(entered.kind);
  return takeEvents(entered, readCloudEvents("application/cloudevents-batch+json", body));
}

/** Follows all that happened, and what comes of it. @param now for what is tried again later */
export async function settle(now?: number): Promise<void> {
  do {
    if ((await consumeEvents(now)) > 0) continue;
    // A transaction of a test beside this one, in another database of the server, still runs: what
    // happened after it began waits for it.
    await new Promise((resolve) => setTimeout(resolve, 20));
  } while ((await unfollowed()) > 0);
}

/** How deep the announced chain of an item went. */
export async function depths(itemId: string): Promise<number[]> {
  const rows = await database()
    .select({ data: domainEvent.data })
    .from(domainEvent)
    .where(and(eq(domainEvent.itemId, itemId), eq(domainEvent.kind, "item changed")))
    .orderBy(asc(domainEvent.id));
  return rows.map((r) => (r.data as EventDataOf<"item changed">).depth);
}
