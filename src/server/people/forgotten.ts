import { and, isNull, sql } from "drizzle-orm";
import { HOUR } from "@/core/calendar/instant";
import { transact } from "@/db/connection";
import { person } from "@/db/schema";
import { appAddress } from "../mail/settings";
import { countUse } from "../rate-limit";
import { giveLink } from "./accounts";
import { keepLetter, mailGoesOut } from "./letters";
import { digestOf } from "./link-token";

/** So many letters go to one address in an hour. */
const PER_ADDRESS = 3;
/** The link in one can be used for so long. */
const LASTS = 2 * HOUR;

/**
 * Sends a link for a new password to whoever has an account with a mail address. Whether there is
 * one nobody is told: the answer is the same.
 */
export async function sendNewPassword(email: string, now = Date.now()): Promise<void> {
  if (!mailGoesOut()) return;
  const key = `forgotten ${digestOf(email).slice(0, 40)}`;
  const { allowed } = await countUse({ key, limit: PER_ADDRESS, windowMs: HOUR, now });
  if (!allowed) return;
  await transact(async (tx) => {
    const [known] = await tx
      .select({ id: person.id, name: person.name, email: person.email })
      .from(person)
      .where(and(sql`lower(${person.email}) = ${email}`, isNull(person.endedAt)));
    if (!known) return;
    const { token } = await giveLink(tx, { personId: known.id, byId: null, now, lasts: LASTS });
    const body = [
      `Hello ${known.name.split(" ")[0]},`,
      "",
      "somebody asked for a new password for your account in Zigzag Lane. If that was you, choose",
      "it here, within two hours:",
      appAddress(`/welcome/${token}`),
      "",
      "If it was not you, leave this letter: your password stays as it is.",
    ];
    await keepLetter(
      tx,
      { recipient: known.email, subject: "A new password for Zigzag Lane", body: body.join("\n") },
      now,
    );
  });
}
