import { randomUUID } from "node:crypto";
import { and, asc, eq, isNull } from "drizzle-orm";
import { database } from "@/db/connection";
import { outbox } from "@/db/schema";
import { readCloudEvents } from "@/core/formats/cloud-event";
import { signatureOf } from "@/server/events/signature";
import { editSource } from "@/server/events/sources";
import { enterSource, takeEvents, type Taken } from "@/server/events/take";
import { consumeOutbox } from "@/worker/consume";
import { INES } from "./people";

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
  const entered = await enterSource(
    id,
    { id: "msg", timestamp, signature: signatureOf(secret, "msg", timestamp, body) },
    body,
  );
  if (entered.kind !== "source") throw new Error(entered.kind);
  return takeEvents(entered, readCloudEvents("application/cloudevents-batch+json", body));
}

/** Does all that waits in the outbox, and what comes of it. */
export async function settle(): Promise<void> {
  while ((await consumeOutbox()) > 0);
}

/** Takes everything out of the outbox that the demo or an earlier test left there. */
export async function clearOutbox(): Promise<void> {
  await database().update(outbox).set({ doneAt: 0 }).where(isNull(outbox.doneAt));
}

/** How deep the announced chain of an item went. */
export async function depths(itemId: string): Promise<number[]> {
  return (
    await database()
      .select({ depth: outbox.depth })
      .from(outbox)
      .where(and(eq(outbox.itemId, itemId)))
      .orderBy(asc(outbox.id))
  ).map((r) => r.depth);
}
