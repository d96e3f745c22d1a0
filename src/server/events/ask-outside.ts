import { eq, sql } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { database } from "@/db/connection";
import { person } from "@/db/schema";
import type { Viewer } from "../people/viewer";
import { signatureOf } from "./signature";

/** Who outside takes longer to say that they heard is taken as away. */
const PATIENCE_MS = 8_000;
const LONGEST_REASON = 200;

/** Who outside is asked for something, and by which secret they know us. */
export interface Asked {
  secret: string;
  address: string;
}

/**
 * Where a source takes requests. A path stands for what came with the product.
 * @param beside where that runs
 */
export function wholeAddress(asksAt: string, beside: string | undefined): string | null {
  if (!asksAt.startsWith("/")) return asksAt;
  return beside ? `${beside}${asksAt}` : null;
}

/** Somebody as those outside know them. */
export async function namedOutside(viewer: Viewer): Promise<{ name: string; mail: string }> {
  const [{ name, mail }] = await database()
    .select({ name: person.name, mail: sql<string>`lower(${person.email})` })
    .from(person)
    .where(eq(person.id, viewer.personId));
  return { name, mail };
}

/**
 * Posts a signed request (Standard Webhooks 1.0, CloudEvents 1.0).
 * @returns what was wrong; null where it was taken
 */
export async function askOutside(
  { secret, address }: Asked,
  { id, type, at, customData }: { id: string; type: string; at: number; customData: object },
): Promise<string | null> {
  const body = JSON.stringify({
    ...{ specversion: "1.0", id, source: "/zigzag-lane", type },
    time: new Date(at).toISOString(),
    datacontenttype: "application/json",
    data: { customData },
  });
  const [message, timestamp] = [newId(), String(Math.floor(at / 1000))];
  try {
    const answer = await fetch(address, {
      method: "POST",
      body,
      redirect: "error",
      headers: {
        "Content-Type": "application/cloudevents+json",
        "webhook-id": message,
        "webhook-timestamp": timestamp,
        "webhook-signature": signatureOf(secret, message, timestamp, body),
      },
      signal: AbortSignal.timeout(PATIENCE_MS),
    });
    if (answer.ok) return null;
    const plain = answer.headers.get("content-type")?.startsWith("text/plain") ?? false;
    const said = plain ? (await answer.text()).trim().slice(0, LONGEST_REASON) : "";
    return said || `it answered ${answer.status}`;
  } catch {
    return "it did not answer";
  }
}
