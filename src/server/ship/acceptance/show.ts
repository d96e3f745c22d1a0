import { and, eq, inArray, isNull } from "drizzle-orm";
import { v5 as namedId, v7 as newId } from "uuid";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { acceptanceLetter } from "@/core/ship/acceptance/acceptance-letter";
import { closesOn } from "@/core/ship/acceptance/showing";
import type { ShowBody, ShownItemBody, ShownToBody } from "@/core/ship/acceptance/shown-item";
import { transact, type Transaction } from "@/db/connection";
import {
  itemFile,
  person,
  showing,
  shownItem,
  shownPicture,
  testPicture,
  testRun,
} from "@/db/schema";
import { namedItems } from "../../item/list/named";
import { appAddress } from "../../mail/settings";
import { enterProject, type ProjectAccess } from "../../people/access";
import { checkMembers } from "../../people/belonging";
import { keepLetter } from "../../people/letters";
import { newToken } from "../../people/link-token";
import type { Viewer } from "../../people/viewer";
import { invalid, notFound } from "../../refused";
import { announceTests } from "../testing/announce-tests";
import { testsShown } from "./drafts";
import { tellShown } from "./tell-shown";
import type { ShowingRow } from "./rows";

/** Where somebody without an account sees what is shown to them. */
export const showingAddress = (token: string): string => appAddress(`/a/${token}`);

/**
 * Shows work to some people, each by a page of their own or in their own queue. What is shown is kept as it is
 * then: words for outside, what was tested, pictures. @throws Refused
 */
export async function showWork(
  viewer: Viewer,
  projectKey: string,
  body: ShowBody,
  now = Date.now(),
): Promise<{ pages: { name: string; page: string | null }[] }> {
  return transact(async (tx) => {
    const where = { key: projectKey };
    const access = await enterProject({ reader: tx, viewer, where, action: "edit item" });
    const itemIds = body.items.map(({ itemId }) => itemId);
    const seen = await namedItems(viewer, itemIds, tx);
    const mine = [...seen.values()].filter(
      ({ projectId, withdrawn }) => projectId === access.project.id && !withdrawn,
    );
    if (mine.length < new Set(itemIds).size) throw notFound("item");
    const tested = await testsShown(tx, itemIds);
    const pages: { name: string; page: string | null }[] = [];
    for (const [i, to] of body.to.entries()) {
      const row = await rowOf(tx, { access, viewer, body, to, i, now });
      const [made] = await tx.insert(showing).values(row).onConflictDoNothing().returning();
      const page = row.token && showingAddress(row.token);
      if (!made) {
        const [known] = await tx.select().from(showing).where(eq(showing.id, row.id));
        if (known.askedBy !== viewer.personId) throw notFound("page");
        pages.push({ name: known.name, page: known.token && showingAddress(known.token) });
        continue;
      }
      await tx.insert(shownItem).values(
        body.items.map(({ itemId, title, how, address, tested: withTests }, position) => ({
          ...{ showingId: row.id, itemId, position, title, how, address },
          tested: withTests ? (tested.get(itemId) ?? []) : [],
        })),
      );
      for (const one of body.items) await showPictures(tx, row.id, one);
      await writeTo(tx, made, { access, titles: body.items.map(({ title }) => title), now });
      pages.push({ name: row.name, page });
    }
    await announceTests(tx, access.project.id, { itemIds, now });
    return { pages };
  });
}

interface Showing {
  access: ProjectAccess;
  viewer: Viewer;
  body: ShowBody;
  to: ShownToBody;
  i: number;
  now: number;
}

async function rowOf(
  tx: Transaction,
  { access, viewer, body, to, i, now }: Showing,
): Promise<ShowingRow> {
  const common = {
    // The same thing sent twice is shown once.
    id: namedId(`${i}`, body.id),
    projectId: access.project.id,
    words: body.words,
    ...{ askedBy: viewer.personId, askedAt: now, until: closesOn(now) },
    ...{ revokedAt: null, reminders: 0, remindedAt: null },
  };
  if ("personId" in to) {
    await checkMembers(tx, access.project.id, [to.personId]);
    const [them] = await tx.select().from(person).where(eq(person.id, to.personId));
    return { ...common, personId: them.id, name: them.name, mail: "", token: null };
  }
  return { ...common, personId: null, name: to.name, mail: to.mail, token: newToken() };
}

/** Pictures of the item, or of a run of it. @throws Refused where one is neither */
async function showPictures(
  tx: Transaction,
  showingId: string,
  { itemId, pictures }: ShownItemBody,
): Promise<void> {
  if (pictures.length === 0) return;
  const ids = [...new Set(pictures)];
  const columns = <T extends typeof itemFile | typeof testPicture>(table: T) => ({
    ...{ id: table.id, name: table.name, mediaType: table.mediaType, sha256: table.sha256 },
    ...{ width: table.width, height: table.height },
  });
  const ofItem = await tx
    .select(columns(itemFile))
    .from(itemFile)
    .where(and(inArray(itemFile.id, ids), eq(itemFile.itemId, itemId), isNull(itemFile.removedAt)));
  const ofRuns = await tx
    .select(columns(testPicture))
    .from(testPicture)
    .innerJoin(testRun, eq(testRun.id, testPicture.runId))
    .where(
      and(inArray(testPicture.id, ids), eq(testRun.itemId, itemId), isNull(testPicture.removedAt)),
    );
  const found = [...ofItem, ...ofRuns].filter(({ mediaType }) => mediaType.startsWith("image/"));
  if (found.length < ids.length)
    throw invalid("A picture is not there any more.", "Choose the pictures again.");
  await tx.insert(shownPicture).values(
    found.map(({ id: _, sha256, ...picture }) => ({
      ...{ ...picture, id: newId(), showingId, itemId, sha256: sha256! },
    })),
  );
}

interface Written {
  access: ProjectAccess;
  titles: readonly string[];
  now: number;
}

/** Writes to whoever has no account, and tells whoever has one. */
async function writeTo(
  tx: Transaction,
  row: ShowingRow,
  { access, titles, now }: Written,
): Promise<void> {
  if (row.personId !== null) return tellShown(tx, row, now);
  if (row.mail === "") return;
  const letter = acceptanceLetter("asked", {
    ...{ projectName: access.project.name, words: row.words, titles },
    page: showingAddress(row.token!),
    until: isoDate(dayNumber(row.until, access.project.zone)),
  });
  await keepLetter(tx, { recipient: row.mail, ...letter }, now);
}
