import { eq } from "drizzle-orm";
import { createHash } from "node:crypto";
import { betterAuth } from "better-auth";
import { drizzleAdapter } from "better-auth/adapters/drizzle";
import { database } from "@/db/connection";
import { account, person, session, verification } from "@/db/schema";
import { nobodyYet } from "./installation";

/**
 * Cookies know hosts and no ports: two installations on one host each have a name of their own, or
 * signing in to one would sign out of the other.
 */
const cookiePrefix = (secret: string) =>
  `zigzag-${createHash("sha256").update(`cookies of ${secret}`).digest("hex").slice(0, 8)}`;

/** Whoever left does not come in again. */
async function hasEnded(personId: string): Promise<boolean> {
  const [known] = await database()
    .select({ endedAt: person.endedAt })
    .from(person)
    .where(eq(person.id, personId));
  return known?.endedAt != null;
}

function createAuth() {
  const secret = process.env.BETTER_AUTH_SECRET;
  if (!secret) throw new Error("BETTER_AUTH_SECRET is not set; bin/start makes one");
  const base = process.env.APP_URL ?? "http://localhost:3000";
  const port = new URL(base).port;
  return betterAuth({
    secret,
    baseURL: base,
    trustedOrigins: [base, `http://localhost:${port}`, `http://127.0.0.1:${port}`],
    database: drizzleAdapter(database(), {
      provider: "pg",
      schema: { user: person, session, account, verification },
    }),
    // Who may make an account, and what they may be called, is decided before (accounts.ts).
    emailAndPassword: { enabled: true, minPasswordLength: 10 },
    // Whoever makes the first account of an empty product looks after it.
    databaseHooks: {
      user: {
        create: {
          before: async (user) => ({ data: { ...user, administrator: await nobodyYet() } }),
        },
      },
      session: { create: { before: async ({ userId }) => !(await hasEnded(userId)) } },
    },
    user: {
      additionalFields: { administrator: { type: "boolean", input: false, defaultValue: false } },
    },
    advanced: {
      cookiePrefix: cookiePrefix(secret),
      ipAddress: { ipAddressHeaders: ["x-client-address"] },
    },
    // Tries are counted in the database, by account and by address (sign-in-limit.ts).
    rateLimit: { enabled: false },
    telemetry: { enabled: false },
  });
}

const shared = globalThis as typeof globalThis & { zigzagAuth?: ReturnType<typeof createAuth> };

/** Sessions and passwords. Made at first use, so that building the application needs no secret. */
export function auth(): ReturnType<typeof createAuth> {
  shared.zigzagAuth ??= createAuth();
  return shared.zigzagAuth;
}
