import { createHash } from "node:crypto";
import { and, eq, sql } from "drizzle-orm";
import { database } from "@/db/connection";
import { person, rateCount, signedInFrom } from "@/db/schema";
import { countUse } from "../rate-limit";

const WINDOW_MS = 15 * 60_000;
/** Failed tries at one account in a window. */
const PER_ACCOUNT = 10;
/** Failed tries from one address in a window, whoever they are at. */
const PER_ADDRESS = 50;
/** New accounts from one address in a window. */
const NEW_PER_ADDRESS = 5;

const digest = (text: string) => createHash("sha256").update(text).digest("hex").slice(0, 40);

/**
 * Where tries are counted. Where a person has been signed in from before they have a count of their
 * own: nobody elsewhere can lock them out.
 */
async function accountKey(email: string, address: string): Promise<string> {
  const [familiar] = await database()
    .select({ address: signedInFrom.address })
    .from(signedInFrom)
    .innerJoin(person, eq(person.id, signedInFrom.personId))
    .where(
      and(sql`lower(${person.email}) = ${email.toLowerCase()}`, eq(signedInFrom.address, address)),
    )
    .limit(1);
  return `sign-in ${digest(email.toLowerCase())}${familiar ? ` at ${address}` : ""}`;
}

export interface SignInTry {
  allowed: boolean;
  /** In seconds. */
  retryAfter: number;
  /** It was a good one: it does not count, and the person is known to come from there. */
  succeed: () => Promise<void>;
}

/** Counts one try to sign in, before it is made, so that many at once are counted too. */
export async function trySignIn(
  email: string,
  address: string,
  now = Date.now(),
): Promise<SignInTry> {
  const keys = [`sign-in from ${address}`, await accountKey(email, address)];
  const byAddress = await countUse({ key: keys[0], limit: PER_ADDRESS, windowMs: WINDOW_MS, now });
  const byAccount = await countUse({ key: keys[1], limit: PER_ACCOUNT, windowMs: WINDOW_MS, now });
  return {
    allowed: byAddress.allowed && byAccount.allowed,
    retryAfter: Math.max(byAddress.retryAfter, byAccount.retryAfter),
    succeed: async () => {
      const windowStart = Math.floor(now / WINDOW_MS) * WINDOW_MS;
      for (const key of keys)
        await database()
          .update(rateCount)
          .set({ count: sql`greatest(${rateCount.count} - 1, 0)` })
          .where(and(eq(rateCount.key, key), eq(rateCount.windowStart, windowStart)));
      const [who] = await database()
        .select({ id: person.id })
        .from(person)
        .where(sql`lower(${person.email}) = ${email.toLowerCase()}`);
      const lastAt = new Date(now);
      if (who)
        await database()
          .insert(signedInFrom)
          .values({ personId: who.id, address, lastAt })
          .onConflictDoUpdate({
            target: [signedInFrom.personId, signedInFrom.address],
            set: { lastAt },
          });
    },
  };
}

/** Counts one new account. */
export const tryNewAccount = (address: string, now = Date.now()) =>
  countUse({ key: `sign-up from ${address}`, limit: NEW_PER_ADDRESS, windowMs: WINDOW_MS, now });
