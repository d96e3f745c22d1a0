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

/**
 * The address at which somebody comes into the code host beside the product, under their own name: it
 * holds for a minute, and once.
 * @param to a page of the host
 * @throws Refused where there is none
 */
export async function addressOfEntry(
  viewer: Viewer,
  to: string,
  now = Date.now(),
): Promise<string> {
  const { CODE_URL: host, CODE_SECRET: secret } = process.env;
  if (!host || !secret) throw notFound("code host");
  const [{ name, email }] = await database()
    .select({ name: person.name, email: person.email })
    .from(person)
    .where(eq(person.id, viewer.personId));
  const said = [name, email.toLowerCase(), String(now + HOLDS_MS), to];
  const signed = createHmac("sha256", secret).update(JSON.stringify(said)).digest("base64url");
  const [who, mail, until] = said;
  return `${host}/enter?${new URLSearchParams({ person: who, mail, until, to, signed })}`;
}
