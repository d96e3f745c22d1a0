import { createHmac } from "node:crypto";
import { eq } from "drizzle-orm";
import { database } from "@/db/connection";
import { person } from "@/db/schema";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";

/** A link lets somebody in for so long. */
const HOLDS_MS = 60_000;

/** Whether a code host came with the product and runs beside it. */
export const hasCodeHost = (): boolean => Boolean(process.env.CODE_URL && process.env.CODE_SECRET);

/** Whether a pipeline came with the product and runs beside it. */
export const hasPipeline = (): boolean =>
  Boolean(process.env.PIPELINE_URL && process.env.PIPELINE_SECRET);

/** What runs beside the product, and lets its people in. */
export type Beside = "code" | "pipeline";

function beside(of: Beside): { host?: string; secret?: string; name: string } {
  const { CODE_URL, CODE_SECRET, PIPELINE_URL, PIPELINE_SECRET } = process.env;
  return of === "code"
    ? { host: CODE_URL, secret: CODE_SECRET, name: "code host" }
    : { host: PIPELINE_URL, secret: PIPELINE_SECRET, name: "pipeline" };
}

/**
 * The address at which somebody comes into the code host or the pipeline beside the product, under their
 * own name: it holds for a minute, and once.
 * @param to a page there
 * @throws Refused where there is none
 */
export async function addressOfEntry(
  viewer: Viewer,
  { of, to }: { of: Beside; to: string },
  now = Date.now(),
): Promise<string> {
  const { host, secret, name: called } = beside(of);
  if (!host || !secret) throw notFound(called);
  const [{ name, email }] = await database()
    .select({ name: person.name, email: person.email })
    .from(person)
    .where(eq(person.id, viewer.personId));
  const said = [name, email.toLowerCase(), String(now + HOLDS_MS), to];
  const signed = createHmac("sha256", secret).update(JSON.stringify(said)).digest("base64url");
  const [who, mail, until] = said;
  return `${host}/enter?${new URLSearchParams({ person: who, mail, until, to, signed })}`;
}
