import { and, asc, desc, eq, gt, isNull, max, sql } from "drizzle-orm";
import { type z } from "zod";
import type { AccountsView } from "@/core/people/account";
import { DAY } from "@/core/calendar/instant";
import { nameKey } from "@/core/people/name";
import { refuse } from "@/core/workflow/refusal";
import { database, transact, type Reader, type Transaction } from "@/db/connection";
import { account, passwordLink, person, session, signedInFrom } from "@/db/schema";
import { invalid, notFound, Refused } from "../refused";
import { auth } from "./auth";
import { digestOf, newToken } from "./link-token";
import { lockAccounts, mayMakeAccount } from "./installation";
import type { Viewer } from "./viewer";
import { v7 as newId } from "uuid";
import { type AccountRequest, type signUpBody } from "@/core/people/request";

/** A link that sets a password may be used for so long. */
const LINK_LASTS = 7 * DAY;

/** @throws Refused for everybody who does not look after accounts */
export function onlyAdministrators(viewer: Viewer): void {
  if (!viewer.administrator)
    throw new Refused(
      refuse("not allowed", "Accounts are looked after by administrators.", "Ask one of them."),
    );
}

/** Everybody with an account, for administrators. */
export async function readAccounts(viewer: Viewer, now = Date.now()): Promise<AccountsView> {
  onlyAdministrators(viewer);
  const db = database();
  const rows = await db
    .select({
      id: person.id,
      name: person.name,
      email: person.email,
      calling: person.calling,
      administrator: person.administrator,
      lastAt: max(signedInFrom.lastAt),
      endedAt: person.endedAt,
      hasPassword: sql<boolean>`exists (select 1 from ${account} where ${account.userId} = ${person.id} and ${account.password} is not null)`,
    })
    .from(person)
    .leftJoin(signedInFrom, eq(signedInFrom.personId, person.id))
    .groupBy(person.id)
    .orderBy(sql`${person.endedAt} is not null`, asc(person.name));
  const links = await db
    .select({ personId: passwordLink.personId, until: passwordLink.until })
    .from(passwordLink)
    .where(open(now))
    .orderBy(desc(passwordLink.until));
  const untilOf = new Map(links.map((l) => [l.personId, l.until]));
  const accounts = rows.map(({ lastAt, ...row }) => ({
    ...row,
    lastSignedInAt: lastAt?.getTime() ?? null,
    linkUntil: untilOf.get(row.id) ?? null,
  }));
  return { accounts, now };
}

const open = (now: number) => and(isNull(passwordLink.usedAt), gt(passwordLink.until, now));

/**
 * Makes an account, or another link for one. @returns the token of a link that sets its password
 * once; it is shown now and never again
 */
export async function editAccounts(
  viewer: Viewer,
  request: AccountRequest,
  now = Date.now(),
): Promise<{ personId: string; token: string; until: number }> {
  onlyAdministrators(viewer);
  return transact(async (tx) => {
    await lockAccounts(tx);
    if (request.kind === "make") {
      await checkFree(tx, request);
      const id = newId();
      const { name, email, calling, administrator } = request;
      await tx
        .insert(person)
        .values({ id, name, email, calling: calling || null, administrator, emailVerified: true });
      return giveLink(tx, { personId: id, byId: viewer.personId, now });
    }
    const [known] = await tx
      .select({ id: person.id, endedAt: person.endedAt })
      .from(person)
      .where(eq(person.id, request.personId));
    if (!known) throw notFound("person");
    if (known.endedAt !== null)
      throw invalid("This person has been ended.", "Bring them back first.");
    return giveLink(tx, { personId: known.id, byId: viewer.personId, now });
  });
}

/**
 * @throws Refused when somebody has the name or the address already: nobody is to be taken for
 * somebody else
 */
export async function checkFree(
  reader: Reader,
  { name, email }: { name: string; email: string },
): Promise<void> {
  const others = await reader.select({ name: person.name, email: person.email }).from(person);
  if (others.some((o) => o.email.toLowerCase() === email))
    throw invalid(
      "Somebody with this mail address has an account already.",
      "Sign in instead, or ask an administrator for a new link.",
    );
  if (others.some((o) => nameKey(o.name) === nameKey(name)))
    throw invalid(
      `Somebody here is called ${name} already.`,
      "Add a second name, or what they do, so that nobody is taken for the other.",
    );
}

/**
 * A new link takes the place of any earlier one; what somebody asks for by mail, who may be anybody,
 * only that of another one by mail.
 */
export async function giveLink(
  tx: Transaction,
  {
    personId,
    byId,
    now,
    lasts = LINK_LASTS,
  }: { personId: string; byId: string | null; now: number; lasts?: number },
): Promise<{ personId: string; token: string; until: number }> {
  const token = newToken();
  const until = now + lasts;
  await tx
    .delete(passwordLink)
    .where(
      and(
        eq(passwordLink.personId, personId),
        isNull(passwordLink.usedAt),
        byId === null ? isNull(passwordLink.madeById) : undefined,
      ),
    );
  await tx.insert(passwordLink).values({
    digest: digestOf(token),
    personId,
    madeById: byId,
    madeAt: now,
    until,
    usedAt: null,
  });
  return { personId, token, until };
}

/** Whose password a link sets. @throws Refused when it was used, has ended or never was */
export async function readWelcome(
  token: string,
  now = Date.now(),
): Promise<{ name: string; email: string }> {
  const [found] = await database()
    .select({ name: person.name, email: person.email })
    .from(passwordLink)
    .innerJoin(person, eq(person.id, passwordLink.personId))
    .where(and(eq(passwordLink.digest, digestOf(token)), open(now)));
  if (!found)
    throw new Refused(
      refuse(
        "not found",
        "This link has ended.",
        "It can be used once, for seven days. Ask an administrator for a new one.",
      ),
    );
  return found;
}

/**
 * Sets the password that a link is for; the link has ended then, and so have their other links and
 * all sessions of that person.
 */
export async function setPasswordByLink(
  token: string,
  password: string,
  now = Date.now(),
): Promise<{ email: string }> {
  const { email } = await readWelcome(token, now);
  const hash = await (await auth().$context).password.hash(password);
  return transact(async (tx) => {
    const [link] = await tx
      .update(passwordLink)
      .set({ usedAt: now })
      .where(and(eq(passwordLink.digest, digestOf(token)), open(now)))
      .returning({ personId: passwordLink.personId });
    if (!link)
      throw new Refused(
        refuse("not found", "This link has ended.", "Ask an administrator for a new one."),
      );
    const own = and(eq(account.userId, link.personId), eq(account.providerId, "credential"));
    const changed = await tx
      .update(account)
      .set({ password: hash, updatedAt: new Date(now) })
      .where(own)
      .returning({ id: account.id });
    if (changed.length === 0)
      await tx.insert(account).values({
        id: newId(),
        accountId: link.personId,
        providerId: "credential",
        userId: link.personId,
        password: hash,
      });
    await tx.delete(session).where(eq(session.userId, link.personId));
    await tx
      .delete(passwordLink)
      .where(and(eq(passwordLink.personId, link.personId), isNull(passwordLink.usedAt)));
    return { email };
  });
}

/**
 * Makes an account for whoever comes, where that is allowed: the first one of an empty product, or
 * as a setting says.
 * @param make makes it, while nobody else makes one
 */
export async function signUp<T>(
  request: z.infer<typeof signUpBody>,
  make: () => Promise<T>,
): Promise<T> {
  return transact(async (tx) => {
    await lockAccounts(tx);
    if (!(await mayMakeAccount(tx)))
      throw new Refused(
        refuse(
          "not allowed",
          "Accounts are made by administrators here.",
          "Ask one of them: they give you a link.",
        ),
      );
    await checkFree(tx, request);
    return make();
  }, 1);
}
