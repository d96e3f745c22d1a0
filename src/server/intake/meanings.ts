import { createHash } from "node:crypto";
import { and, eq, inArray, sql } from "drizzle-orm";
import { nearness, type Meaning } from "@/core/intake/meaning";
import { cutText } from "@/core/formats/cut-text";
import { database } from "@/db/connection";
import { item, report, textMeaning } from "@/db/schema";
import { meaningsAside } from "./meaning-thread";

/**
 * The meaning of items and of reports that wait: made in the background, kept, and held against
 * each other at the desk.
 */

type About = "item" | "report";

/** What a text is about is said in its beginning. */
const MOST_READ = 500;
const textToRead = (title: string, body: string) => cutText(`${title}. ${body}`, MOST_READ);
const digestOf = (text: string) => createHash("sha256").update(text).digest("base64");

interface Due {
  about: About;
  id: string;
  projectId: string;
  version: number;
  title: string;
  body: string;
  digest: string | null;
}

/**
 * Reports that wait come first, then the newest items; each when its text was not read yet, or it
 * has changed since.
 */
async function dueTexts(most: number): Promise<Due[]> {
  const db = database();
  const known = (about: About, id: typeof item.id | typeof report.id) =>
    and(eq(textMeaning.about, about), eq(textMeaning.id, id));
  const stale = (version: typeof item.version | typeof report.version) =>
    sql`${textMeaning.version} is distinct from ${version}`;
  const reports = await db
    .select({
      id: report.id,
      projectId: report.projectId,
      version: report.version,
      title: report.title,
      body: report.happened,
      digest: textMeaning.digest,
    })
    .from(report)
    .leftJoin(textMeaning, known("report", report.id))
    .where(and(inArray(report.status, ["unjudged", "asked", "parked"]), stale(report.version)))
    .limit(most);
  const items =
    reports.length >= most
      ? []
      : await db
          .select({
            id: item.id,
            projectId: item.projectId,
            version: item.version,
            title: item.title,
            body: item.description,
            digest: textMeaning.digest,
          })
          .from(item)
          .leftJoin(textMeaning, known("item", item.id))
          .where(
            and(sql`${item.withdrawnAt} is null and ${item.parentId} is null`, stale(item.version)),
          )
          .orderBy(sql`${item.createdAt} desc`)
          .limit(most - reports.length);
  return [
    ...reports.map((r) => ({ ...r, about: "report" as const })),
    ...items.map((i) => ({ ...i, about: "item" as const })),
  ];
}

/**
 * Gives some texts that have none a meaning. @returns how many were looked at; 0 when there is
 * nothing to do
 */
export async function makeMeanings(most: number): Promise<number> {
  const due = await dueTexts(most);
  const texts = due.map((d) => textToRead(d.title, d.body));
  const changed = due.flatMap((d, i) => (d.digest === digestOf(texts[i]) ? [] : [i]));
  const read = changed.length === 0 ? [] : await meaningsAside(changed.map((i) => texts[i]));
  const meanings = new Map(changed.map((i, n) => [i, read[n]]));
  for (const [i, { about, id, projectId, version }] of due.entries()) {
    const made = meanings.get(i);
    // A move changes the version and not the words: what they mean was read before.
    if (!made)
      await database()
        .update(textMeaning)
        .set({ version })
        .where(and(eq(textMeaning.about, about), eq(textMeaning.id, id)));
    else {
      const values = {
        version,
        digest: digestOf(texts[i]),
        meaning: Buffer.from(made.buffer, made.byteOffset, made.byteLength),
      };
      await database()
        .insert(textMeaning)
        .values({ about, id, projectId, ...values })
        .onConflictDoUpdate({ target: [textMeaning.about, textMeaning.id], set: values });
    }
  }
  return due.length;
}

const read = (stored: Buffer): Meaning =>
  new Int8Array(stored.buffer, stored.byteOffset, stored.byteLength);

/** The meanings of some texts, as far as they are known. */
export async function meaningsOf(
  about: About,
  ids: readonly string[],
): Promise<Map<string, Meaning>> {
  if (ids.length === 0) return new Map();
  const rows = await database()
    .select({ id: textMeaning.id, meaning: textMeaning.meaning })
    .from(textMeaning)
    .where(and(eq(textMeaning.about, about), inArray(textMeaning.id, [...ids])));
  return new Map(rows.map((r) => [r.id, read(r.meaning)]));
}

interface Known {
  at: number;
  meanings: Promise<{ id: string; meaning: Meaning }[]>;
}

const knownIn = new Map<string, Known>();
const KNOWN_MS = 30_000;
const KEPT_PROJECTS = 10;
const MOST_ITEMS = 20_000;

/**
 * The meanings of a project's items, read anew after a while; projects that were not asked for the
 * longest go first.
 */
function projectMeanings(projectId: string, now: number): Known["meanings"] {
  const known = knownIn.get(projectId);
  if (known && now - known.at < KNOWN_MS) return known.meanings;
  const meanings = database()
    .select({ id: textMeaning.id, meaning: textMeaning.meaning })
    .from(textMeaning)
    .where(and(eq(textMeaning.about, "item"), eq(textMeaning.projectId, projectId)))
    .limit(MOST_ITEMS)
    .then((rows) => rows.map((r) => ({ id: r.id, meaning: read(r.meaning) })));
  knownIn.delete(projectId);
  knownIn.set(projectId, { at: now, meanings });
  meanings.catch(() => knownIn.delete(projectId));
  if (knownIn.size > KEPT_PROJECTS) knownIn.delete(knownIn.keys().next().value!);
  return meanings;
}

/**
 * Ids of the items of a project that mean about the same, the nearest first; whether somebody may
 * see them is for the caller to ask.
 */
export async function nearInMeaning(
  projectId: string,
  meaning: Meaning,
  most: number,
  now = Date.now(),
): Promise<string[]> {
  const all = await projectMeanings(projectId, now);
  const near = all.map(({ id, meaning: other }) => ({ id, near: nearness(meaning, other) }));
  return near
    .sort((a, b) => b.near - a.near)
    .slice(0, most)
    .map((n) => n.id);
}
