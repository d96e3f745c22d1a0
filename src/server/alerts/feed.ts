import { and, desc, eq } from "drizzle-orm";
import { Feed } from "feed";
import { asHtml } from "@/core/formats/as-html";
import { plainText } from "@/core/formats/plain-text";
import { database } from "@/db/connection";
import { alert, personFeed } from "@/db/schema";
import { appAddress } from "../mail/settings";
import type { Viewer } from "../people/viewer";
import { digestOf, newToken } from "../people/link-token";
import { notFound } from "../refused";
import { receiverOf, toldNow } from "./sent-telling";

/** So many entries a feed has. */
const ENTRIES = 50;

const feedAddress = (token: string) => appAddress(`/api/public/feed/${token}`);

/** Makes the private address of a person's feed; the one before leads nowhere from then on. */
export async function makeFeed(viewer: Viewer, now = Date.now()): Promise<{ address: string }> {
  const token = newToken();
  const row = { digest: digestOf(token), since: now, readAt: null };
  await database()
    .insert(personFeed)
    .values({ personId: viewer.personId, ...row })
    .onConflictDoUpdate({ target: personFeed.personId, set: row });
  return { address: feedAddress(token) };
}

/** Ends the private address of one's feed. */
export async function endFeed(viewer: Viewer): Promise<void> {
  await database().delete(personFeed).where(eq(personFeed.personId, viewer.personId));
}

/** Since when a person has a feed, and when it was last read. */
export async function feedOf(
  viewer: Viewer,
): Promise<{ since: number; readAt: number | null } | null> {
  const [row] = await database()
    .select({ since: personFeed.since, readAt: personFeed.readAt })
    .from(personFeed)
    .where(eq(personFeed.personId, viewer.personId));
  return row ?? null;
}

/**
 * A person's alerts as an Atom feed (RFC 4287), as far as they may see them now.
 * @throws Refused when the address is none, or its account has ended
 */
export async function readFeed(token: string, now = Date.now()): Promise<string> {
  const db = database();
  const [own] = await db
    .update(personFeed)
    .set({ readAt: now })
    .where(eq(personFeed.digest, digestOf(token)))
    .returning();
  const receiver = own && (await receiverOf(own.personId));
  if (!receiver) throw notFound("feed");
  const rows = await db
    .select()
    .from(alert)
    .where(and(eq(alert.personId, own.personId), eq(alert.inFeed, true)))
    .orderBy(desc(alert.lastAt), desc(alert.id))
    .limit(ENTRIES);
  const told = await toldNow(receiver.viewer, rows);
  const feed = new Feed({
    id: `urn:x-zigzag:alerts:${own.personId}`,
    title: `What ${plain(receiver.viewer.name)} is told`,
    link: appAddress("/"),
    copyright: "",
    generator: "Zigzag Lane",
    feedLinks: { atom: feedAddress(token) },
    updated: new Date(rows[0]?.lastAt ?? own.since),
    author: { name: "Zigzag Lane" },
  });
  for (const { id, firstAt, lastAt } of rows) {
    const one = told.get(id);
    if (!one) continue;
    const lines = one.lines.map(({ who, words, said }) =>
      plain([who, words, said && `“${said}”`].filter(Boolean).join(" ")),
    );
    feed.addItem({
      id: `urn:uuid:${id}`,
      title: plain(`${one.itemKey} ${one.title}`),
      link: one.page,
      date: new Date(lastAt),
      published: new Date(firstAt),
      description: lines.join("; "),
    });
  }
  return feed.atom1();
}

/** Titles and summaries are HTML: what people wrote stands there as text, without what XML cannot hold. */
const plain = (text: string): string => asHtml(plainText(text));
