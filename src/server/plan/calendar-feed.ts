import { and, eq, isNotNull, isNull, or } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import { addDays } from "@/core/calendar/month";
import { isoDate, dayNumber } from "@/core/calendar/zone";
import { calendarFile, type CalendarEntry } from "@/core/calendar/ics-write";
import { projectKeyOf } from "@/core/item/key";
import { cutText } from "@/core/formats/cut-text";
import { plainText } from "@/core/formats/plain-text";
import type { DatedItem, FeedMade, FeedOf } from "@/core/plan/calendar-view";
import { database, transact, type Reader } from "@/db/connection";
import { calendarFeed, membership, project } from "@/db/schema";
import { receiverOf } from "../alerts/sent-telling";
import { appAddress } from "../mail/settings";
import { accessibleProjects, enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { digestOf, newToken } from "../people/link-token";
import { notFound } from "../refused";
import { datedItems, datedReleases, datedSprints, hasIt, ofProjects } from "./dated";

/** So far a calendar program sees back and ahead, in days. */
const BACK = 90;
const AHEAD = 730;
const MOST_ITEMS = 2_000;
const LONGEST_TITLE = 200;

const which = (viewer: Viewer, projectId: string | null) =>
  and(
    eq(calendarFeed.personId, viewer.personId),
    projectId === null ? isNull(calendarFeed.projectId) : eq(calendarFeed.projectId, projectId),
  );

/** Makes the private address of a calendar; the one before leads nowhere from then on. @throws Refused */
export async function makeCalendarFeed(
  viewer: Viewer,
  projectKey: string,
  of: FeedOf,
  now = Date.now(),
): Promise<{ address: string }> {
  const token = newToken();
  await transact(async (tx) => {
    const where = { key: projectKey };
    const entered = await enterProject({ reader: tx, viewer, where, action: "read project" });
    const projectId = of === "mine" ? null : entered.project.id;
    await tx.delete(calendarFeed).where(which(viewer, projectId));
    await tx
      .insert(calendarFeed)
      .values({ digest: digestOf(token), personId: viewer.personId, projectId, since: now });
  });
  return { address: appAddress(`/api/public/calendar/${token}`) };
}

/** Ends a private address of one's own. @throws Refused */
export async function endCalendarFeed(
  viewer: Viewer,
  projectKey: string,
  of: FeedOf,
): Promise<void> {
  const reader = database();
  const where = { key: projectKey };
  const entered = await enterProject({ reader, viewer, where, action: "read project" });
  const projectId = of === "mine" ? null : entered.project.id;
  await reader.delete(calendarFeed).where(which(viewer, projectId));
}

/** Which addresses somebody has, of a project and of what is theirs. */
export async function feedsOf(
  reader: Reader,
  viewer: Viewer,
  projectId: string,
): Promise<Record<FeedOf, FeedMade | null>> {
  const rows = await reader
    .select({
      projectId: calendarFeed.projectId,
      since: calendarFeed.since,
      readAt: calendarFeed.readAt,
    })
    .from(calendarFeed)
    .where(
      and(
        eq(calendarFeed.personId, viewer.personId),
        or(isNull(calendarFeed.projectId), eq(calendarFeed.projectId, projectId)),
      ),
    );
  const made = (id: string | null): FeedMade | null => {
    const row = rows.find((one) => one.projectId === id);
    return row ? { since: row.since, readAt: row.readAt } : null;
  };
  return { project: made(projectId), mine: made(null) };
}

/**
 * What a calendar program reads at a private address: what its owner may see at this moment.
 * @throws Refused when the address is none, its account has ended, or they no longer see the project
 */
export async function readCalendarFeed(token: string, now = Date.now()): Promise<string> {
  const db = database();
  const [own] = await db
    .update(calendarFeed)
    .set({ readAt: now })
    .where(eq(calendarFeed.digest, digestOf(token)))
    .returning();
  const receiver = own && (await receiverOf(own.personId));
  if (!receiver) throw notFound("calendar");
  const { viewer } = receiver;
  const projects = await accessibleProjects(
    db,
    viewer,
    own.projectId === null ? isNotNull(membership.role) : eq(project.id, own.projectId),
  );
  if (own.projectId !== null && projects.length === 0) throw notFound("calendar");
  const name = own.projectId === null ? `Mine: ${viewer.name}` : projects[0].project.name;
  const entries = await entriesOf(db, viewer, { projects, mine: own.projectId === null, now });
  return calendarFile({ name: plainText(name), entries, stampedAt: now });
}

type Projects = Awaited<ReturnType<typeof accessibleProjects>>;

async function entriesOf(
  reader: Reader,
  viewer: Viewer,
  { projects, mine, now }: { projects: Projects; mine: boolean; now: Instant },
): Promise<CalendarEntry[]> {
  const today = isoDate(dayNumber(now, projects[0]?.project.zone ?? "UTC"));
  const stretch = { from: addDays(today, -BACK), to: addDays(today, AHEAD) };
  const items = await datedItems(
    reader,
    viewer,
    mine ? hasIt(viewer) : ofProjects(projects.map(({ project: { id } }) => id)),
    { ...stretch, most: MOST_ITEMS },
  );
  const boxes = new Map<string, CalendarEntry>();
  for (const { project: of } of projects) {
    const place = (path: string) => appAddress(`/p/${of.key}/plan/${path}`);
    const sprints = of.usesSprints ? await datedSprints(reader, [of.id], stretch, now) : [];
    for (const { id, name, goal, from, to } of sprints)
      if (!boxes.has(id))
        boxes.set(id, {
          ...{ id: `sprint-${id}`, from, to, words: goal },
          title: `${of.key} ${name}`,
          page: place(`sprints?sprint=${encodeURIComponent(id)}`),
        });
    for (const { id, name, on, out } of await datedReleases(reader, [of.id], stretch))
      if (!boxes.has(id))
        boxes.set(id, {
          ...{ id: `release-${id}`, from: on, to: on, words: "" },
          title: `${of.key} ${name} ${out ? "went out" : "goes out"}`,
          page: place(`releases?release=${encodeURIComponent(id)}`),
        });
  }
  return [...boxes.values(), ...items.map(itemEntry)].map(asPlain);
}

const itemEntry = ({ id, key, title, on, fixed, finished }: DatedItem): CalendarEntry => ({
  ...{ id: `item-${id}`, from: on, to: on },
  title: `${finished ? "done: " : ""}${key} ${title}`,
  words: fixed ? "Fixed date" : "Due",
  page: appAddress(`/p/${projectKeyOf(key)}/items/${key}`),
});

/** Without what lines of a calendar cannot hold, and no longer than one is read. */
const asPlain = (entry: CalendarEntry): CalendarEntry => ({
  ...entry,
  id: `${entry.id}@zigzag-lane`,
  title: cutText(plainText(entry.title), LONGEST_TITLE),
  words: plainText(entry.words),
});
