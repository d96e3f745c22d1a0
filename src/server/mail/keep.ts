import { eq } from "drizzle-orm";
import { database } from "@/db/connection";
import { alert, item, mailAddress, mailWaiting, project } from "@/db/schema";
import { ANSWERS_TO } from "../alerts/send-mail";
import { idOfToken } from "../alerts/signed-token";
import { countUse } from "../rate-limit";
import { mailSettings } from "./settings";
import { v7 as newId } from "uuid";

/** A mail with everything in it is not larger. */
export const LARGEST_MAIL = 12 * 1024 * 1024;
const PER_CLIENT = 60;
const PER_ADDRESS = 300;
const HOUR_MS = 3_600_000;

export interface Envelope {
  /** Where failures go; empty for mails that must not be answered. */
  from: string;
  to: string;
}

/** The open address of a project that a recipient names; null where there is none. */
async function openAddress(recipient: string): Promise<typeof mailAddress.$inferSelect | null> {
  const [, name, domain] = /^([^@\s]{1,64})@([^@\s]{1,255})$/.exec(recipient.toLowerCase()) ?? [];
  if (!name || domain !== mailSettings().domain.toLowerCase()) return null;
  // What stands behind a plus is the sender's own mark.
  const [row] = await database()
    .select({ address: mailAddress, putAwayAt: project.putAwayAt })
    .from(mailAddress)
    .innerJoin(project, eq(project.id, mailAddress.projectId))
    .where(eq(mailAddress.name, name.split("+")[0]));
  return row?.address.open && row.putAwayAt === null ? row.address : null;
}

/** Where mail for an address of ours belongs; null where there is no such address. */
type Address =
  | { name: string; projectId: string; teamId: string | null; alertId: null }
  | { name: string; projectId: string; teamId: null; alertId: string };

async function addressOf(recipient: string): Promise<Address | null> {
  const open = await openAddress(recipient);
  if (open) return { ...open, alertId: null };
  const alerted = await answeredAlert(recipient);
  return alerted && { ...alerted, name: `${ANSWERS_TO} ${alerted.alertId}`, teamId: null };
}

/** The alert that a recipient is made for, by its signature. */
async function answeredAlert(
  recipient: string,
): Promise<{ alertId: string; projectId: string } | null> {
  const [name, domain] = recipient.toLowerCase().split("@");
  const [before, token] = name.split("+");
  if (before !== ANSWERS_TO || domain !== mailSettings().domain.toLowerCase()) return null;
  const alertId = idOfToken("answer an alert", token ?? "");
  if (alertId === null) return null;
  const [row] = await database()
    .select({ alertId: alert.id, projectId: item.projectId })
    .from(alert)
    .innerJoin(item, eq(item.id, alert.itemId))
    .where(eq(alert.id, alertId));
  return row ?? null;
}

export type Admission = "welcome" | "unknown" | "too many";

/**
 * Whether a mail may be handed over at all, said before it is sent. Only what its sender cannot
 * choose is counted: the address of ours that it is for, and the machine that it comes from where
 * the server before the door tells it.
 */
export async function admitMail(
  to: string,
  client: string | null,
  now = Date.now(),
): Promise<Admission> {
  const address = await addressOf(to);
  if (!address) return "unknown";
  const byClient =
    client === null
      ? { allowed: true }
      : await countUse({ key: `mail by ${client}`, limit: PER_CLIENT, windowMs: HOUR_MS, now });
  if (!byClient.allowed) return "too many";
  const byAddress = await countUse({
    key: `mail to ${address.name}`,
    limit: PER_ADDRESS,
    windowMs: HOUR_MS,
    now,
  });
  return byAddress.allowed ? "welcome" : "too many";
}

/**
 * Keeps a mail as it came, to be read later: from here on nothing of it can be lost, whatever
 * reading it does.
 * @returns whether there is such an address
 */
export async function keepMail(
  raw: Buffer,
  envelope: Envelope,
  now = Date.now(),
): Promise<boolean> {
  const address = await addressOf(envelope.to);
  if (!address) return false;
  await database()
    .insert(mailWaiting)
    .values({
      id: newId(),
      projectId: address.projectId,
      teamId: address.teamId,
      alertId: address.alertId,
      returnPath: envelope.from.slice(0, 320),
      raw,
      at: now,
      dueAt: now,
    });
  return true;
}
